import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { routes, type Erased, type InstalledCourse } from '#contract'
import { call } from '../api/client'
import { useWrites } from '../saving/writes'
import { counted, shownAt, shownDay, today } from '../parts/format'

/** A course that is over long enough can be made nameless; what will be erased is counted first. */
export function Nameless({ course: { id, code, namelessAt, namelessFrom } }: { course: InstalledCourse }) {
  const { write } = useWrites()
  const queries = useQueryClient()
  const [counts, setCounts] = useState<Erased | null>(null)
  /** Reasons that name somebody and stay all the same. */
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const params = { courseId: id }
  if (namelessAt !== null)
    return (
      <p className="soft mt-3">
        Nameless since {shownAt(namelessAt, 'd MMM yyyy')}: names, works and remarks are erased, figures and decisions stay.
      </p>
    )
  if (namelessFrom === null) return null
  if (namelessFrom > today()) return <p className="soft mt-3">It can be made nameless from {shownDay(namelessFrom)} on.</p>
  const count = async () => setCounts(await write(`what names ${code} holds`, () => call(routes.countNames, { params })))
  const erase = async () => {
    const reasons = counts!.reasons.filter((r) => !left.has(r))
    const done = await write(`${code} nameless`, () => call(routes.makeNameless, { params, body: { reasons } }))
    if (!done) return
    setCounts(null)
    await queries.invalidateQueries({ queryKey: ['installed courses'] })
  }
  if (!counts)
    return (
      <Button size="sm" variant="outline-primary" className="mt-3" onClick={() => void count()}>
        Make it nameless…
      </Button>
    )
  return (
    <div className="note mt-3" role="group" aria-label={`Make ${code} nameless`}>
      <p className="mb-1">For good, this is erased:</p>
      <ul className="mb-2">
        {counts.students > 0 && <li>{counted(counts.students, 'student')}: name, external id, and their way to their own work</li>}
        {counts.works + counts.deliveries > 0 && (
          <li>
            {counted(counts.works, 'text')} and {counted(counts.deliveries, 'file')} that were handed in
          </li>
        )}
        {counts.remarks > 0 && <li>{counted(counts.remarks, 'set')} of remarks and notes to readings, earlier ones too</li>}
        {counts.rolls > 0 && <li>{counted(counts.rolls, 'roll')} as before a file was imported</li>}
        {counts.letters > 0 && <li>{counted(counts.letters, 'letter')} about the course</li>}
        {counts.sent > 0 && <li>the students’ numbers in {counted(counts.sent, 'hand-over')} to the records office</li>}
      </ul>
      {counts.reasons.length > 0 && (
        <fieldset className="mb-2">
          <legend>{counted(counts.reasons.length, 'reason')} may name a student. Erase these too:</legend>
          {counts.reasons.map((reason, i) => (
            <Form.Check
              key={reason}
              id={`nameless-${i}`}
              label={reason}
              checked={!left.has(reason)}
              onChange={() =>
                setLeft((now) => (now.has(reason) ? new Set([...now].filter((r) => r !== reason)) : new Set(now).add(reason)))
              }
            />
          ))}
        </fieldset>
      )}
      <p className="soft small mb-2">
        Candidate numbers, marks, levels, decisions, exemplars and confirmed results stay; in confirmed results numbers take the place of
        names. Backups hold the names until they are replaced, and the submission box’s own files are not touched. At the end the database
        is written anew: saving pauses for a few seconds.
      </p>
      <div className="buttons">
        <Button size="sm" variant="outline-primary" className="brick" onClick={() => void erase()}>
          Erase them
        </Button>
        <Button size="sm" variant="link" onClick={() => setCounts(null)}>
          Leave them
        </Button>
      </div>
    </div>
  )
}
