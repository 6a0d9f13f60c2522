import { Link } from 'react-router'
import { sightOf } from '#core/roles'
import type { CourseHead } from '#contract'
import { counted } from '../parts/format'
import { useCourses } from './ahead'
import { PlainFrame } from './PlainFrame'

/** Where a course stands, in a few words. */
const stateOf = ({ awayAt, confirmedIssue, issueInForce }: CourseHead): string => {
  if (awayAt) return 'put away'
  if (confirmedIssue !== null) return `confirmed, issue ${confirmedIssue}`
  return issueInForce === null ? 'open' : `reopened, issue ${issueInForce} counts`
}

/** Every course that somebody has a part in. */
export default function CoursesPage() {
  const { data } = useCourses()
  return (
    <PlainFrame title="Your courses">
      <main className="table-side">
        <div className="stop-head">
          <h1>Your courses</h1>
        </div>
        {data && <CourseList courses={data} />}
      </main>
    </PlainFrame>
  )
}

export function CourseList({ courses }: { courses: readonly CourseHead[] }) {
  if (courses.length === 0)
    return <p className="soft">You have no part in a course yet. A course stands here as soon as its lead adds you to it.</p>
  return (
    <table className="grid">
      <thead>
        <tr>
          <th>course</th>
          <th>term</th>
          <th>your part</th>
          <th>students</th>
          <th>state</th>
        </tr>
      </thead>
      <tbody>
        {courses.map((c) => (
          <tr key={c.id}>
            <td>
              <Link to={`/courses/${c.id}`}>
                {c.code} {c.title}
              </Link>
            </td>
            <td>{c.term}</td>
            <td>{c.role}</td>
            <td className="soft">
              {sightOf(c.role).students === 'self' ? '' : `${counted(c.students, 'student')} in ${counted(c.sections, 'section')}`}
            </td>
            <td className="soft">{stateOf(c)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
