import { useQuery } from '@tanstack/react-query'
import { format, parseISO } from 'date-fns'
import { useState } from 'react'
import { routes, type CourseHead, type Me, type OwnWork } from '#contract'
import { call } from '../api/client'
import { problemOf } from '../api/problem-of'
import { fixed, numeral } from '../parts/format'
import { Head } from '../shell/Head'
import { HowJudged } from './HowJudged'
import { KeysHelp } from '../settings/KeysHelp'
import { OwnRemarks } from './OwnRemarks'
import { OwnResult } from './OwnResult'
import { OwnStandings } from './OwnStandings'

const opens = (w: OwnWork['work'][number]) => w.standard !== null || w.exemplars.length > 0 || w.remarks.length > 0

/** What a student sees: their own work, and of it only what is released. */
export function StudentFrame({ me, courses, head }: { me: Me; courses: CourseHead[]; head: CourseHead }) {
  const own = useQuery({ queryKey: ['own work', head.id], queryFn: () => call(routes.ownWork, { params: { courseId: head.id } }) })
  const problem = problemOf(own)
  const [shown, setShown] = useState<OwnWork['work'][number] | null>(null)
  const places = Math.max(0, ...(own.data?.work ?? []).map((w) => (numeral(w.mark).split('.')[1] ?? '').length))
  return (
    <div className="frame without-run">
      <Head me={me} courses={courses} course={head} />
      <main className="table-side own-work">
        <section>
          <h1>Your work in {head.title}</h1>
          {problem && <p className="note bad">{problem}</p>}
          {own.data && (
            <>
              <p className="soft">
                {own.data.candidate} · {own.data.section}. A mark stands here once it is released.
              </p>
              {own.data.result && <OwnResult result={own.data.result} />}
              {own.data.work.length === 0 ? (
                <p className="soft">Nothing is set for you yet. What is set will stand here with the day it is due.</p>
              ) : (
                <table className="grid">
                  <thead>
                    <tr>
                      <th>assessment</th>
                      <th>due</th>
                      <th className="num">mark</th>
                      <th>
                        <span className="visually-hidden">marked out of</span>
                      </th>
                    </tr>
                  </thead>
                  <tbody>
                    {own.data.work.map((w) => (
                      <tr key={w.assessment} className={shown === w ? 'chosen' : undefined}>
                        <td className="fw-semibold">
                          {opens(w) ? (
                            <button className="row-name" aria-expanded={shown === w} onClick={() => setShown(shown === w ? null : w)}>
                              {w.assessment}
                            </button>
                          ) : (
                            w.assessment
                          )}
                        </td>
                        <td>{w.due ? format(parseISO(w.due), 'EEE d MMM') : <span className="soft">no day yet</span>}</td>
                        {w.released && w.mark !== null ? (
                          <>
                            <td className="num fw-semibold">{fixed(w.mark, places)}</td>
                            <td className="soft">of {numeral(w.outOf)}</td>
                          </>
                        ) : (
                          <td className="num soft" colSpan={2}>
                            {!w.released ? 'not released' : w.status === null || w.status === 'in' ? 'no mark yet' : w.status}
                          </td>
                        )}
                      </tr>
                    ))}
                  </tbody>
                </table>
              )}
              {own.data.standings.length > 0 && <OwnStandings standings={own.data.standings} />}
            </>
          )}
        </section>
        <aside aria-label="The work chosen">
          {shown ? (
            <>
              {shown.remarks.length > 0 && <OwnRemarks work={shown} />}
              <HowJudged work={shown} />
            </>
          ) : (
            own.data?.work.some(opens) && (
              <p className="soft">Choose a title in colour: how it is judged, and what was remarked on yours.</p>
            )
          )}
        </aside>
      </main>
      <KeysHelp />
    </div>
  )
}
