import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { usePlanQuery } from '../../course/plan'
import { useWrites } from '../../saving/writes'
import { attachTo } from './attach-to'
import type { Entry } from './library'

/** Puts an entry to use in an assessment of this course, in one step. */
export function Attach({ courseId, entry }: { courseId: string; entry: Entry }) {
  const plan = usePlanQuery(courseId)
  const { write } = useWrites()
  const [chosen, setChosen] = useState('')
  const free = (plan.data?.assessments ?? []).filter((a) => a.standardId !== entry.standard.id)
  const assessment = free.find((a) => a.id === chosen)
  if (free.length === 0) return null
  const attach = () => {
    if (!assessment) return
    void write(
      `attach ${entry.standard.title} to ${assessment.title}`,
      () => attachTo(courseId, assessment.id, entry.standard.id),
      () => attachTo(courseId, assessment.id, assessment.standardId),
    )
    setChosen('')
  }
  return (
    <div className="d-flex gap-2 align-items-baseline mt-1">
      <Form.Select size="sm" aria-label="Assessment to use it in" value={chosen} onChange={(e) => setChosen(e.target.value)}>
        <option value="">use it in…</option>
        {free.map((a) => (
          <option key={a.id} value={a.id}>
            {a.title}
          </option>
        ))}
      </Form.Select>
      {assessment && (
        <Button size="sm" onClick={attach}>
          Use it
        </Button>
      )}
    </div>
  )
}
