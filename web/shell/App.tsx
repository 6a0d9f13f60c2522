import { sightOf } from '#core/roles'
import { createBrowserRouter, Navigate, Link, Outlet, RouterProvider, useLocation, useParams, useRouteError } from 'react-router'
import { messageOf, page, ProblemError } from '../api/client'
import { SignIn } from '../session/SignIn'
import { useCourses, useMe } from '../session/ahead'
import { stopCode } from './code'
import { Notice } from './Notice'
import { Place } from './Place'
import { RUN, STOPS } from './stops'

const router = createBrowserRouter([
  { path: '/come-in', lazy: async () => ({ Component: (await import('../session/ComeIn')).ComeIn }), errorElement: <Broken /> },
  { path: '/signed-on', lazy: async () => ({ Component: (await import('../session/SignedOn')).SignedOn }), errorElement: <Broken /> },
  {
    path: '/stand-in/sign-on',
    lazy: async () => ({ Component: (await import('../session/StandInProvider')).StandInProvider }),
    errorElement: <Broken />,
  },
  {
    path: '/',
    element: <Door />,
    errorElement: <Broken />,
    hydrateFallbackElement: <></>,
    children: [
      { index: true, element: <FirstCourse /> },
      { path: 'class/:courseId/:sectionId', lazy: stopCode(() => import('../class/ClassView')), errorElement: <StopBroken /> },
      { path: 'account', lazy: stopCode(() => import('../session/AccountPage')), errorElement: <StopBroken /> },
      { path: 'installation/:part?', lazy: stopCode(() => import('../installation/Installation')), errorElement: <StopBroken /> },
      { path: 'courses', lazy: stopCode(() => import('../session/CoursesPage')), errorElement: <StopBroken /> },
      {
        path: 'courses/:courseId',
        lazy: stopCode(() => import('./CourseFrame')),
        children: [
          { index: true, element: <FirstStop /> },
          ...RUN.map((stop) => ({
            path: STOPS[stop].parts ? `${stop}/:part?` : stop,
            lazy: stopCode(STOPS[stop].load),
            errorElement: <StopBroken />,
          })),
          { path: 'post', lazy: stopCode(() => import('../stops/post/PostPage')), errorElement: <StopBroken /> },
          { path: 'judging', lazy: stopCode(() => import('../stops/bound/judging/Judging')), errorElement: <StopBroken /> },
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
            Go back to <a href="/courses">your courses</a>.
          </Notice>
        ),
      },
    ],
  },
])

export const App = () => <RouterProvider router={router} />

function Broken() {
  return (
    <Notice title="This page broke">
      {messageOf(useRouteError())} What you saved is safe. <a href="/courses">Start again from your courses</a>.
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
  return (
    <>
      <Place />
      <Outlet />
    </>
  )
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

function FirstStop() {
  const { courseId = '' } = useParams()
  const role = useCourses().data?.find((c) => c.id === courseId)?.role
  return <Navigate to={`/courses/${courseId}/${role === undefined || sightOf(role).oversees ? 'set-out' : 'mark'}`} replace />
}
