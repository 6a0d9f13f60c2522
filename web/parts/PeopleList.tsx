import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { useCourse } from '../course/course'
import { usePersonLabels } from '../frame/names'

/** The people behind a bar, a dot or a count, each a way to their page. */
export function PeopleList({ people, empty }: { people: { studentId: string; figures: ReactNode }[]; empty: string }) {
  const { id, table } = useCourse()
  const label = usePersonLabels(table.students)
  if (people.length === 0) return <p className="soft">{empty}</p>
  return (
    <ul className="people">
      {people.map((p) => (
        <li key={p.studentId}>
          <Link to={`/courses/${id}/students/${p.studentId}`}>{label(p.studentId)}</Link>
          {p.figures}
        </li>
      ))}
    </ul>
  )
}
