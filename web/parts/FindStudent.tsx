import { useEffect, useMemo, useState } from 'react'
import { Form } from 'react-bootstrap'
import { foldedName } from '#core/roll'
import type { Student } from '#contract'
import { useStable } from './useStable'

const MATCHES = 6

/** Finds a student by name or number; Enter takes the first found, also of a roll that has yet to come. */
export function FindStudent({
  students,
  label,
  says,
  onPick,
}: {
  /** Null until the roll is here. */
  students: readonly Pick<Student, 'id' | 'candidate'>[] | null
  label: (studentId: string) => string
  /** What it is for, as the field's name. */
  says: string
  onPick: (studentId: string) => void
}) {
  const [find, setFind] = useState('')
  /** What was asked for with Enter before anybody could be found. */
  const [entered, setEntered] = useState<string | null>(null)
  const wanted = foldedName(find)
  const matches = useMemo(
    () =>
      wanted === '' || !students
        ? []
        : students.filter((s) => foldedName(`${label(s.id)} ${s.candidate}`).includes(wanted)).slice(0, MATCHES),
    [students, wanted, label],
  )
  const pick = useStable((id: string) => {
    onPick(id)
    setFind('')
  })
  useEffect(() => {
    if (entered === null || !students) return
    setEntered(null)
    if (entered === wanted && matches[0]) pick(matches[0].id)
  }, [entered, students, wanted, matches, pick])
  return (
    <>
      <Form.Control
        size="sm"
        aria-label={says}
        placeholder="name or number"
        value={find}
        onChange={(e) => setFind(e.target.value)}
        onKeyDown={(e) => {
          if (e.key !== 'Enter') return
          if (matches[0]) pick(matches[0].id)
          else if (students) return
          else setEntered(wanted)
          e.preventDefault()
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
      {wanted !== '' && !students && <p className="soft small mb-0">Fetching the roll…</p>}
      {wanted !== '' && students && matches.length === 0 && <p className="soft small mb-0">Nobody on the roll is called that.</p>}
    </>
  )
}
