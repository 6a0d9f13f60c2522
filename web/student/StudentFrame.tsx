import { useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { flushSync } from 'react-dom'
import { routes, type CourseHead, type Me, type OwnWork } from '#contract'
import { call } from '../api/client'
import { problemOf } from '../api/problem-of'
import { today } from '../parts/format'
import { Head } from '../shell/Head'
import { HowJudged } from './HowJudged'
import { KeysHelp } from '../settings/KeysHelp'
import { OwnRemarks } from './OwnRemarks'
import { OwnResult } from './OwnResult'
import { OwnStandings } from './OwnStandings'
import { useFresh } from './useFresh'
import { opens, rowId, WorkTable } from './WorkTable'

/** After every day. */
const LAST = '9999'

/** What a student sees: their own work, and of it only what is released. */
export function StudentFrame({ me, courses, head }: { me: Me; courses: CourseHead[]; head: CourseHead }) {
  const own = useQuery({ queryKey: ['own work', head.id], queryFn: () => call(routes.ownWork, { params: { courseId: head.id } }) })
  const problem = problemOf(own)
  const [shown, setShown] = useState<OwnWork['work'][number] | null>(null)
  const aside = useRef<HTMLElement>(null)
  // On a phone it lies beneath all that is listed.
  useEffect(() => {
    if (shown) aside.current?.scrollIntoView({ block: 'nearest' })
  }, [shown])
  const backToAll = () => {
    const from = shown!.assessment
    flushSync(() => setShown(null))
    document.getElementById(rowId(from))?.focus()
  }
  const fresh = useFresh(head.id, own.data?.work)
  const byDay = (own.data?.work ?? []).toSorted((a, b) => ((a.due ?? LAST) < (b.due ?? LAST) ? -1 : 1))
  const back = byDay.filter((w) => w.released && (w.mark !== null || (w.status !== null && w.status !== 'in'))).reverse()
  const coming = byDay.filter((w) => !back.includes(w) && w.due !== null && w.due >= today())
  const waiting = byDay.filter((w) => !back.includes(w) && !coming.includes(w))
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
                <>
                  <WorkTable title="Coming" work={coming} shown={shown} onShow={setShown} />
                  <WorkTable title="Back" work={back} fresh={fresh} shown={shown} onShow={setShown} />
                  <WorkTable title="Not back yet" work={waiting} shown={shown} onShow={setShown} />
                </>
              )}
              {own.data.standings.length > 0 && <OwnStandings standings={own.data.standings} />}
            </>
          )}
        </section>
        <aside aria-label="The work chosen" ref={aside}>
          {shown ? (
            <>
              <button className="quiet-button back-to-all" onClick={backToAll}>
                ‹ all work
              </button>
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
