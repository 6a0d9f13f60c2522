import { useQuery } from '@tanstack/react-query'
import { Suspense, useDeferredValue, useMemo, type ReactNode } from 'react'
import { createBrowserRouter, Link, Navigate, Outlet, RouterProvider, useLocation, useParams, useRouteError } from 'react-router'
import type { Stop } from '#core'
import type { CourseHead, Me } from '#contract'
import { messageOf, page, ProblemError } from '../api/client'
import { openFindings } from '../parts/plan-findings'
import { coursesQuery, meQuery } from './ahead'
import { later, stopCode, useStopsAhead } from './code'
import { CourseProvider, useCourseSoFar } from '../course/course'
import { useCourseEvents } from './events'
import { Head } from './Head'
import { KeysProvider } from './keys'
import { KeysHelp } from './KeysHelp'
import { useDraftsGuard } from './drafts'
import { LeaveGuard } from './LeaveGuard'
import { LookingAs } from './look'
import { NamesProvider } from './names'
import { needsMarks } from './needs-marks'
import { usePlanQuery, useRollQuery } from './plan'
import { Run } from './Run'
import { SavedProvider } from './saved'
import { SignIn } from '../session/SignIn'
import { ComeIn } from '../session/ComeIn'
import { SignedOn } from '../session/SignedOn'
import { StandInProvider } from '../session/StandInProvider'
import { STOPS, stopStates } from './stops'
import { StudentFrame } from './StudentFrame'
import { TrialProvider } from './trial'
import { UndoProvider } from './undo'

// The charts come after what is on screen.
const Horizon = later(() => import('./Horizon'))

const router = createBrowserRouter([
  { path: '/come-in', element: <ComeIn />, errorElement: <Broken /> },
  { path: '/signed-on', element: <SignedOn />, errorElement: <Broken /> },
  { path: '/stand-in/sign-on', element: <StandInProvider />, errorElement: <Broken /> },
  {
    path: '/',
    element: <Door />,
    errorElement: <Broken />,
    hydrateFallbackElement: <></>,
    children: [
      { index: true, element: <FirstCourse /> },
      { path: 'account', lazy: stopCode(() => import('../session/AccountPage')), errorElement: <StopBroken /> },
      { path: 'installation/:part?', lazy: stopCode(() => import('../installation/Installation')), errorElement: <StopBroken /> },
      {
        path: 'courses/:courseId',
        element: <CourseFrame />,
        children: [
          { index: true, element: <FirstStop /> },
          { path: 'set-out/:part?', lazy: stopCode(() => import('../stops/set-out/SetOut')), errorElement: <StopBroken /> },
          { path: 'agree/:part?', lazy: stopCode(() => import('../stops/agree/Agree')), errorElement: <StopBroken /> },
          { path: 'mark/:part?', lazy: stopCode(() => import('../stops/mark/Mark')), errorElement: <StopBroken /> },
          { path: 'compare', lazy: stopCode(() => import('../stops/compare/Compare')), errorElement: <StopBroken /> },
          { path: 'reconcile', lazy: stopCode(() => import('../stops/reconcile/Reconcile')), errorElement: <StopBroken /> },
          { path: 'rescale', lazy: stopCode(() => import('../stops/rescale/Rescale')), errorElement: <StopBroken /> },
          { path: 'bound', lazy: stopCode(() => import('../stops/bound/Bound')), errorElement: <StopBroken /> },
          { path: 'confirm', lazy: stopCode(() => import('../stops/confirm/Confirm')), errorElement: <StopBroken /> },
          { path: 'post', lazy: stopCode(() => import('../stops/post/PostPage')), errorElement: <StopBroken /> },
          { path: 'record', lazy: stopCode(() => import('../stops/record/Record')), errorElement: <StopBroken /> },
          {
            path: 'students/:studentId',
            lazy: stopCode(() => import('../stops/student/Student')),
            errorElement: <StopBroken />,
          },
        ],
      },
      {
        path: '*',
        element: (
          <Notice title="There is no such page">
            Go back to <a href="/">your courses</a>.
          </Notice>
        ),
      },
    ],
  },
])

export const App = () => <RouterProvider router={router} />

function Notice({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main className="empty">
      <h1>{title}</h1>
      <p className="mt-2">{children}</p>
    </main>
  )
}

function Broken() {
  return (
    <Notice title="This page broke">
      {messageOf(useRouteError())} What you saved is safe. <a href="/">Start again from your courses</a>.
    </Notice>
  )
}

/** What is around the stop stays, and with it what waits to be saved. */
function StopBroken() {
  const { pathname } = useLocation()
  return (
    <div className="empty">
      This page broke: {messageOf(useRouteError())}. What you did is safe. <a href={pathname}>Open it again</a>, or go to another stop.
    </div>
  )
}

const useMe = () => useQuery(meQuery)
const useCourses = () => useQuery(coursesQuery)

/** Signed in or at the door. */
function Door() {
  const me = useMe()
  if (me.isPending) return null
  if (me.error instanceof ProblemError || !me.data)
    return me.error instanceof ProblemError || !me.error ? (
      <SignIn again={page.personId !== null} />
    ) : (
      <Notice title="Not reachable">{messageOf(me.error)}</Notice>
    )
  return <Outlet />
}

function FirstCourse() {
  const me = useMe()
  const courses = useCourses()
  if (courses.isPending) return null
  const first = courses.data?.find((c) => c.confirmedIssue === null && c.awayAt === null && c.students > 100) ?? courses.data?.[0]
  if (!first && me.data?.admin) return <Navigate to="/installation" replace />
  return first ? (
    <Navigate to={`/courses/${first.id}`} replace />
  ) : (
    <Notice title="No course yet">
      You have no part in a course. Ask whoever leads it to add you; then <a href="/">look again</a>.{' '}
      <Link to="/account">Your account</Link>
    </Notice>
  )
}

function CourseFrame() {
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
            {head.role === 'student' ? (
              <StudentFrame me={me.data} courses={courses.data!} head={head} />
            ) : head.role === 'marker' ? (
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

const ALL_STOPS = new Set(STOPS.map((s) => s.stop))
const MARKER_STOPS = new Set<Stop>(['agree', 'mark'])

function FirstStop() {
  const { courseId = '' } = useParams()
  const role = useCourses().data?.find((c) => c.id === courseId)?.role
  return <Navigate to={`/courses/${courseId}/${role === 'marker' ? 'mark' : 'set-out'}`} replace />
}

/** Lead and external see the run, the horizon and every stop. */
function OverseerFrame({ me, courses, head }: FrameProps) {
  useStopsAhead()
  return (
    <TrialProvider head={head}>
      <CourseProvider courseId={head.id}>
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
  const { pathname } = useLocation()
  const light = !needsMarks(pathname)
  // Asked for beside the plan and the page's own code, not after them.
  useRollQuery(head.id, pathname.endsWith('/set-out/roll'))
  const waiting = (
    <footer className="horizon folded waiting soft" aria-label="Where it stands">
      {waitsFor && !problem ? (
        <button className="fold text-start" onClick={ask}>
          {waitsFor.students} students × {waitsFor.assessments} assessments: work out where the grades stand
        </button>
      ) : (
        (problem ?? 'Working out where the grades stand…')
      )}
    </footer>
  )
  return (
    <div className="frame">
      <Head me={me} courses={courses} course={head} />
      <Run courseId={head.id} states={course && stopStates(course, odd)} allowed={ALL_STOPS} />
      {course || light ? <Outlet /> : <div className="empty">{problem ?? 'Working out where the grades stand…'}</div>}
      {course ? (
        <Suspense fallback={waiting}>
          <Horizon />
        </Suspense>
      ) : (
        waiting
      )}
    </div>
  )
}

/** A marker sees the standard and the sheet of their own sections, and no grades that would sway. */
function MarkerFrame({ me, courses, head }: FrameProps) {
  useCourseEvents(head.id)
  useStopsAhead()
  const stop = useLocation().pathname.split('/')[3] ?? 'mark'
  return (
    <div className="frame">
      <Head me={me} courses={courses} course={head} />
      <Run courseId={head.id} states={null} allowed={MARKER_STOPS} />
      {MARKER_STOPS.has(stop as Stop) || stop === 'post' ? (
        <Outlet />
      ) : (
        <Notice title="Not here for you">This stop is for those who lead or oversee the course.</Notice>
      )}
      {me.look?.courseId === head.id && <LookingAs look={me.look} />}
      <KeysHelp />
    </div>
  )
}
