import { useState, type ReactNode } from 'react'
import { Link } from 'react-router'
import { useDecidedCourse } from '../course/course'
import { usePersonLabels } from '../settings/names'

const AT_ONCE = 100

/** The people behind a bar, a dot or a count, each a way to their page; of very many the first, and more when asked for. */
export function PeopleList({ people, empty }: { people: { studentId: string; figures: ReactNode }[]; empty: string }) {
  const { id, table } = useDecidedCourse()
  const label = usePersonLabels(table.students)
  const [shown, setShown] = useState(AT_ONCE)
  if (people.length === 0) return <p className="soft">{empty}</p>
  const rest = people.length - shown
  return (
    <>
      <ul className="people">
        {people.slice(0, shown).map((p) => (
          <li key={p.studentId}>
            <Link to={`/courses/${id}/students/${p.studentId}`}>{label(p.studentId)}</Link>
            {p.figures}
          </li>
        ))}
      </ul>
      {rest > 0 && (
        <button className="quiet-button mt-1" onClick={() => setShown((n) => n + AT_ONCE)}>
          {rest > AT_ONCE ? `Show ${AT_ONCE} more of the other ${rest}` : `Show the other ${rest}`}
        </button>
      )}
    </>
  )
}
