import { useMemo, useState } from 'react'
import { Form } from 'react-bootstrap'
import type { Student } from '#contract'

const MATCHES = 6

/** Finds a student by name or number; Enter takes the first found. */
export function FindStudent({
  students,
  label,
  says,
  onPick,
}: {
  students: readonly Pick<Student, 'id' | 'candidate'>[]
  label: (studentId: string) => string
  /** What it is for, as the field's name. */
  says: string
  onPick: (studentId: string) => void
}) {
  const [find, setFind] = useState('')
  const wanted = find.trim().toLowerCase()
  const matches = useMemo(
    () => (wanted === '' ? [] : students.filter((s) => `${label(s.id)} ${s.candidate}`.toLowerCase().includes(wanted)).slice(0, MATCHES)),
    [students, wanted, label],
  )
  const pick = (id: string) => {
    onPick(id)
    setFind('')
  }
  return (
    <>
      <Form.Control
        size="sm"
        aria-label={says}
        placeholder="name or number"
        value={find}
        onChange={(e) => setFind(e.target.value)}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' || !matches[0]) return
          e.preventDefault()
          pick(matches[0].id)
        }}
      />
      {matches.length > 0 && (
        <ul className="people">
          {matches.map((s) => (
            <li key={s.id}>
              <button className="row-name" onClick={() => pick(s.id)}>
                {label(s.id)}
              </button>
              <span className="soft">{s.candidate}</span>
            </li>
          ))}
        </ul>
      )}
      {wanted !== '' && matches.length === 0 && <p className="soft small mb-0">Nobody on the roll is called that.</p>}
    </>
  )
}
