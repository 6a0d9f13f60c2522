import { useQuery } from '@tanstack/react-query'
import { format, parseISO } from 'date-fns'
import { useState } from 'react'
import { routes, type CourseHead, type Me, type OwnWork } from '#contract'
import { call, messageOf } from '../api/client'
import { plain } from '../parts/format'
import { Head } from './Head'
import { HowJudged } from './HowJudged'
import { KeysHelp } from './KeysHelp'

/** What a student sees: their own work, and of it only what is released. */
export function StudentFrame({ me, courses, head }: { me: Me; courses: CourseHead[]; head: CourseHead }) {
  const own = useQuery({ queryKey: ['own work', head.id], queryFn: () => call(routes.ownWork, { params: { courseId: head.id } }) })
  const [shown, setShown] = useState<OwnWork['work'][number] | null>(null)
  return (
    <div className="frame without-run">
      <Head me={me} courses={courses} course={head} />
      <main className="table-side" style={{ maxWidth: 760 }}>
        <h1>Your work in {head.title}</h1>
        {own.error && <p className="note bad">{messageOf(own.error)}</p>}
        {own.data && (
          <>
            <p className="soft">
              {own.data.candidate} · {own.data.section}. A mark stands here once it is released.
            </p>
            {own.data.work.length === 0 ? (
              <p className="soft">Nothing is set for you yet. What is set will stand here with the day it is due.</p>
            ) : (
              <table className="grid">
                <thead>
                  <tr>
                    <th>assessment</th>
                    <th>due</th>
                    <th className="num">mark</th>
                  </tr>
                </thead>
                <tbody>
                  {own.data.work.map((w) => (
                    <tr key={w.assessment}>
                      <td className="fw-semibold">
                        {w.standard || w.exemplars.length > 0 ? (
                          <button className="row-name" aria-expanded={shown === w} onClick={() => setShown(shown === w ? null : w)}>
                            {w.assessment}
                          </button>
                        ) : (
                          w.assessment
                        )}
                      </td>
                      <td>{w.due ? format(parseISO(w.due), 'EEE d MMM') : <span className="soft">no day yet</span>}</td>
                      <td className="num">
                        {!w.released ? (
                          <span className="soft">not released</span>
                        ) : w.mark !== null ? (
                          <>
                            <b>{plain(w.mark)}</b> <span className="soft">of {plain(w.outOf)}</span>
                          </>
                        ) : (
                          <span className="soft">{w.status === null || w.status === 'in' ? 'no mark yet' : w.status}</span>
                        )}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            )}
            {shown && <HowJudged work={shown} />}
          </>
        )}
      </main>
      <KeysHelp />
    </div>
  )
}
