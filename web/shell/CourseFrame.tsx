import { Suspense, useCallback, useDeferredValue, useMemo, useState } from 'react'
import { Link, Outlet, useLocation, useParams } from 'react-router'
import { sightOf } from '#core/roles'
import type { CourseHead, Me } from '#contract'
import { Adopting } from '../course/Adopting'
import { CourseProvider, useCourseSoFar } from '../course/course'
import { openFindings } from '../parts/plan-findings'
import { useCourses, useMe } from '../session/ahead'
import { later, useStopsAhead } from './code'
import { useCourseEvents } from '../course/events'
import { Head } from './Head'
import { Broke } from './Broke'
import { KeysProvider } from '../settings/keys'
import { KeysHelp } from '../settings/KeysHelp'
import { useDraftsGuard } from '../saving/drafts'
import { LeaveGuard } from '../saving/LeaveGuard'
import { LookingAs } from '../session/look'
import { NamesProvider } from '../settings/names'
import { Notice } from './Notice'
import { usePlanQuery, useRollQuery } from '../course/plan'
import { Run } from './Run'
import { SavedProvider } from '../saving/saved'
import horizon from './horizon.module.css'
import wayBack from './way-back.module.css'
import { isStop, needsMarks, STOPS, stopStates } from './stops'
import { TrialProvider } from '../course/trial'
import { UndoProvider } from '../saving/undo'
import { useAskedToJudge } from '../stops/bound/judging/useAskedToJudge'

// The charts come after what is on screen.
const Horizon = later(() => import('./Horizon'))
const StudentFrame = later(() => import('../student/StudentFrame'))

/** What stands around every stop of a course, for each part in it. */
export default function CourseFrame() {
  useDraftsGuard()
  const { courseId = '' } = useParams()
  const me = useMe()
  const courses = useCourses()
  if (courses.isPending || !me.data) return null
  const head = courses.data?.find((c) => c.id === courseId)
  if (!head)
    return (
      <Notice title="No such course">
        It is not among yours. <a href="/">Your courses</a>
      </Notice>
    )
  return (
    <KeysProvider key={courseId}>
      <NamesProvider>
        <SavedProvider>
          <LeaveGuard />
          <UndoProvider>
            {sightOf(head.role).students === 'self' ? (
              <Suspense fallback={null}>
                <StudentFrame me={me.data} courses={courses.data!} head={head} />
              </Suspense>
            ) : sightOf(head.role).reads ? (
              <MarkerFrame me={me.data} courses={courses.data!} head={head} />
            ) : (
              <OverseerFrame me={me.data} courses={courses.data!} head={head} />
            )}
          </UndoProvider>
        </SavedProvider>
      </NamesProvider>
    </KeysProvider>
  )
}

interface FrameProps {
  me: Me
  courses: CourseHead[]
  head: CourseHead
}

/** Lead and external see the run, the horizon and every stop. */
function OverseerFrame({ me, courses, head }: FrameProps) {
  useStopsAhead()
  return (
    <TrialProvider head={head}>
      <CourseProvider courseId={head.id} lightFirst={!needsMarks(useLocation().pathname)}>
        <OverseerStops me={me} courses={courses} head={head} />
        <KeysHelp />
      </CourseProvider>
    </TrialProvider>
  )
}

function OverseerStops({ me, courses, head }: FrameProps) {
  const { course, problem, waitsFor, ask } = useCourseSoFar()
  const plan = usePlanQuery(head.id)
  // The screen comes first, the counts of what to look at a moment after it.
  const settled = useDeferredValue(plan.data, undefined)
  const odd = useMemo(() => (settled ? Object.values(openFindings(settled)).reduce((n, x) => n + x, 0) : 0), [settled])
  const [adopting, setAdopting] = useState(false)
  const askToAdopt = useCallback(() => setAdopting(true), [])
  const { pathname } = useLocation()
  const light = !needsMarks(pathname)
  // Who judges at a line does not see where grades stand.
  const isBlind = pathname.endsWith('/judging')
  // Asked for beside the plan and the page's own code, not after them.
  useRollQuery(head.id, pathname.endsWith('/set-out/roll'))
  const waiting = (
    <footer className={`${horizon.horizon} ${horizon.folded} ${horizon.waiting} soft`} aria-label="Where it stands">
      {waitsFor && !problem ? (
        <button className={`${horizon.fold} text-start`} onClick={ask}>
          {waitsFor.students} students × {waitsFor.assessments} assessments: work out where the grades stand
        </button>
      ) : (
        (problem ?? 'Working out where the grades stand…')
      )}
    </footer>
  )
  return (
    <div className="frame">
      <Broke part="The head">
        <Head me={me} courses={courses} course={head} />
      </Broke>
      <Broke part="The run">
        <Run courseId={head.id} states={course && stopStates({ ...course, odd })} sight={sightOf(head.role)} />
      </Broke>
      <WayBack courseId={head.id} />
      {course || light ? <Outlet /> : <div className="empty">{problem ?? 'Working out where the grades stand…'}</div>}
      {isBlind ? null : course ? (
        <Broke part="The horizon">
          <Suspense fallback={waiting}>
            <Horizon onAdopt={askToAdopt} />
          </Suspense>
        </Broke>
      ) : (
        waiting
      )}
      {!isBlind && <Adopting asked={adopting} onAsk={askToAdopt} onClose={() => setAdopting(false)} />}
    </div>
  )
}

/** The way back to the stop that sent one here. */
function WayBack({ courseId }: { courseId: string }) {
  const state = useLocation().state as { back?: { to: string; words: string } } | null
  if (!state?.back) return null
  return (
    <Link className={wayBack.back} to={`/courses/${courseId}/${state.back.to}`}>
      ← {state.back.words}
    </Link>
  )
}

/** A marker sees the standard and the sheet of their own sections, and no grades that would sway. */
function MarkerFrame({ me, courses, head }: FrameProps) {
  useCourseEvents(head.id)
  useStopsAhead()
  const stop = useLocation().pathname.split('/')[3] ?? 'mark'
  const sight = sightOf(head.role)
  const asked = useAskedToJudge(head.id)
  const said = [
    asked > 0 && stop !== 'judging' && (
      <p key="judging" className="note my-2">
        You are asked to judge {asked} students at a line. <Link to={`/courses/${head.id}/judging`}>Judge them</Link>
      </p>
    ),
    head.confirmedIssue !== null && (
      <p key="confirmed" className="note my-2">
        Issue {head.confirmedIssue} of this course is confirmed: marks stand as they were signed, and nothing can be typed until its lead
        reopens it.
      </p>
    ),
  ].filter(Boolean)
  return (
    <div className={said.length === 0 ? 'frame' : 'frame with-band'}>
      <Head me={me} courses={courses} course={head} />
      <Run courseId={head.id} states={null} sight={sight} />
      {said.length > 0 && (
        <div className="mx-3" role="status">
          {said}
        </div>
      )}
      {(isStop(stop) ? STOPS[stop].isFor(sight) : stop === 'post' || stop === 'judging') ? (
        <Outlet />
      ) : (
        <Notice title="Not here for you">This stop is for those who lead or oversee the course.</Notice>
      )}
      {me.look?.courseId === head.id && <LookingAs look={me.look} />}
      <KeysHelp />
    </div>
  )
}
