import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { USUAL_GRADES, type Boundary } from '#core/grades'
import { useGradeSets } from '../../../parts/grade-sets'

/** Sets of grades to start from: the usual ones, and those that the department keeps. */
export function GradeSets({
  courseId,
  keepable,
  onTake,
}: {
  courseId: string
  /** Whether what stands there is a set. */
  keepable: boolean
  onTake: (name: string, grades: readonly Boundary[]) => void
}) {
  const { sets: own, keep, drop } = useGradeSets(courseId)
  const [naming, setNaming] = useState<string | null>(null)
  const all = [...own, ...USUAL_GRADES.map((s) => ({ id: s.name, ...s }))]
  const keepAs = async (name: string) => {
    if (await keep(name)) setNaming(null)
  }
  return (
    <div className="d-flex gap-3 align-items-baseline flex-wrap mt-3">
      <Form.Group controlId="usual-grades" className="d-flex gap-2 align-items-baseline">
        <Form.Label className="soft small mb-0">Start from</Form.Label>
        <Form.Select
          size="sm"
          className="w-auto"
          value=""
          onChange={(e) => {
            const set = all.find((s) => s.id === e.target.value)
            if (set) onTake(set.name, set.grades)
          }}
        >
          <option value="">a set…</option>
          {own.length > 0 && (
            <optgroup label="the department’s">
              {own.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
            </optgroup>
          )}
          <optgroup label="usual">
            {USUAL_GRADES.map((s) => (
              <option key={s.name} value={s.name}>
                {s.name}
              </option>
            ))}
          </optgroup>
        </Form.Select>
      </Form.Group>
      {naming === null ? (
        <Button size="sm" variant="link" disabled={!keepable} onClick={() => setNaming('')}>
          Keep these for the department…
        </Button>
      ) : (
        <Form
          className="d-flex gap-2 align-items-baseline"
          onSubmit={(e) => {
            e.preventDefault()
            if (naming.trim() !== '') void keepAs(naming.trim())
          }}
        >
          <Form.Control
            size="sm"
            autoFocus
            aria-label="What the set is called"
            placeholder="what it is called"
            maxLength={200}
            value={naming}
            onChange={(e) => setNaming(e.target.value)}
            onKeyDown={(e) => e.key === 'Escape' && setNaming(null)}
          />
          <Button size="sm" variant="outline-primary" type="submit" disabled={naming.trim() === ''}>
            Keep
          </Button>
        </Form>
      )}
      {own
        .filter((s) => s.own)
        .map((s) => (
          <span key={s.id} className="soft small text-nowrap">
            {s.name}{' '}
            <button className="quiet-button" aria-label={`Keep ${s.name} no longer`} onClick={() => void drop(s)}>
              drop
            </button>
          </span>
        ))}
    </div>
  )
}
