import { useQuery } from '@tanstack/react-query'
import { Suspense, useEffect, useMemo, useRef } from 'react'
import { Link, useSearchParams } from 'react-router'
import { routes, type CourseHead, type Me } from '#contract'
import { call } from '../api/client'
import { problemOf } from '../api/problem-of'
import { today } from '../parts/format'
import { KeysHelp } from '../settings/KeysHelp'
import { later } from '../shell/code'
import { Head } from '../shell/Head'
import { CodeName } from './CodeName'
import { OneWork } from './OneWork'
import { asCourse } from './own-course'
import { OwnResult } from './OwnResult'
import { OwnStandings } from './OwnStandings'
import { useFresh } from './useFresh'
import { opens, rowId, WorkTable } from './WorkTable'
import styles from './student.module.css'

// What reckons comes after what is read.
const SoFar = later(() => import('./SoFar'))
const WhatIf = later(() => import('./WhatIf'))

/** After every day. */
const LAST = '9999'

/** What a student sees: their own work, and of it only what is released. */
export default function StudentFrame({ me, courses, head }: { me: Me; courses: CourseHead[]; head: CourseHead }) {
  const own = useQuery({ queryKey: ['own work', head.id], queryFn: () => call(routes.ownWork, { params: { courseId: head.id } }) })
  const problem = problemOf(own)
  // In the address, so that on a phone the way back is the browser's.
  const [at, setAt] = useSearchParams()
  const work = own.data?.work ?? []
  const shown = work.find((w) => w.id === at.get('work')) ?? null
  const course = useMemo(() => (own.data?.course ? asCourse(own.data.course) : null), [own.data?.course])
  const needs = at.has('need') && course !== null
  const titles = useMemo(() => new Map(own.data?.course?.assessments.map((a) => [a.id, a.title])), [own.data?.course])
  const show = (id: string | null) => setAt(id === null ? {} : { work: id })
  const opened = shown ? rowId(shown.assessment) : needs ? 'what-if' : null
  const before = useRef(opened)
  // Back in the list, by whichever way, one goes on from where one left it.
  useEffect(() => {
    if (opened === null && before.current !== null) document.getElementById(before.current)?.focus()
    before.current = opened
  }, [opened])
  const fresh = useFresh(head.id, own.data?.work)
  const byDay = work.toSorted((a, b) => ((a.due ?? LAST) < (b.due ?? LAST) ? -1 : 1))
  const back = byDay.filter((w) => w.released && (w.mark !== null || (w.status !== null && w.status !== 'in'))).reverse()
  const coming = byDay.filter((w) => !back.includes(w) && w.due !== null && w.due >= today())
  const waiting = byDay.filter((w) => !back.includes(w) && !coming.includes(w))
  const list = { shown, onShow: show }
  return (
    <div className="frame without-run">
      <Head me={me} courses={courses} course={head} />
      <main className={`table-side ${styles.ownWork} ${opened ? styles.opened : ''}`}>
        <section>
          <h1>Your work in {head.title}</h1>
          {problem && <p className="note bad">{problem}</p>}
          {own.data && (
            <>
              <p className="soft">
                {own.data.candidate} · {own.data.section}. A mark stands here once it is released.
              </p>
              {own.data.result && <OwnResult result={own.data.result} earlier={own.data.earlier} />}
              {course && (
                <Suspense fallback={null}>
                  <SoFar course={course} onNeed={() => setAt({ need: '' })} />
                </Suspense>
              )}
              {work.length === 0 ? (
                <p className="soft">Nothing is set for you yet. What is set will stand here with the day it is due.</p>
              ) : (
                <>
                  <WorkTable title="New since you were here" work={back.filter((w) => fresh.has(w.assessment))} {...list} />
                  <WorkTable title="Coming" work={coming} {...list} />
                  {coming.length > 0 && (
                    <p className="small mt-1 mb-0">
                      <Link to="/account#calendar">These days in your calendar</Link>
                    </p>
                  )}
                  <WorkTable title="Back" work={back.filter((w) => !fresh.has(w.assessment))} {...list} />
                  <WorkTable title="Not back yet" work={waiting} {...list} />
                </>
              )}
              {own.data.codeName !== null && <CodeName courseId={head.id} name={own.data.codeName} />}
              {own.data.standings?.length !== 0 && (
                <div className={styles.ifNarrow}>
                  <OwnStandings standings={own.data.standings} />
                </div>
              )}
            </>
          )}
        </section>
        <aside aria-label={needs ? 'What would be needed' : 'The work chosen'}>
          {opened ? (
            <>
              <button className={`quiet-button ${styles.backToAll}`} onClick={() => show(null)}>
                ‹ all work
              </button>
              {shown && <OneWork courseId={head.id} work={shown} />}
              {!shown && needs && (
                <Suspense fallback={<p className="soft">Getting ready to reckon…</p>}>
                  <WhatIf course={course} titles={titles} />
                </Suspense>
              )}
            </>
          ) : (
            <>
              {work.some(opens) && (
                <p className="soft mb-0">Choose a title in colour: how it is judged, what was remarked on yours, and what can be asked.</p>
              )}
              {own.data && own.data.standings?.length !== 0 && <OwnStandings standings={own.data.standings} />}
            </>
          )}
        </aside>
      </main>
      <KeysHelp />
    </div>
  )
}
