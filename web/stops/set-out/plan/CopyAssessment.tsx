import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { Dialog, DialogTitle } from '../../../parts/Dialog'
import type { z } from 'zod'
import { sightOf } from '#core/roles'
import { routes, type Component, type Taken } from '#contract'
import { call } from '../../../api/client'
import { usePlanQuery } from '../../../course/plan'
import { InComponent } from './InComponent'

type Body = z.input<typeof routes.copyAssessment.body>

const WORDS: Record<keyof Taken, string> = {
  standard: 'its rubric, mark scheme or scale',
  passMark: 'its pass mark',
  moderation: 'readings wanted and tolerance',
  notes: 'its notes',
  placements: 'where and when it is set; from another term moved by teaching week',
}

/** Copies an assessment of this course or of another one, with what is wanted of it; marks never come along. */
export function CopyAssessment({
  courseId,
  original: preset,
  components,
  onCopy,
  onClose,
}: {
  courseId: string
  /** An assessment of this course to begin with; null to choose from another course. */
  original: string | null
  components: Component[]
  onCopy: (body: Body) => Promise<void>
  onClose: () => void
}) {
  const courses = useQuery({ queryKey: ['courses'], queryFn: () => call(routes.courses) })
  const seen = (courses.data ?? []).filter((c) => sightOf(c.role).oversees)
  const [own, other] = [seen.filter((c) => c.id === courseId), seen.filter((c) => c.id !== courseId)]
  // The one that is meant stands first.
  const others = preset === null ? [...other, ...own] : [...own, ...other]
  const [chosenCourse, setCourse] = useState('')
  const fromCourseId = chosenCourse || others[0]?.id || ''
  const plan = usePlanQuery(fromCourseId, fromCourseId !== '')
  const [chosenAssessment, setAssessment] = useState(preset ?? '')
  const assessmentId = plan.data?.assessments.some((a) => a.id === chosenAssessment)
    ? chosenAssessment
    : (plan.data?.assessments[0]?.id ?? '')
  const original = plan.data?.assessments.find((a) => a.id === assessmentId)
  const alike = plan.data?.components.find((c) => c.id === original?.componentId)?.title
  const [chosenComponent, setComponent] = useState('')
  const componentId = chosenComponent || (components.find((c) => c.title === alike) ?? components[0])?.id || ''
  const [take, setTake] = useState<Taken>({ standard: true, passMark: true, moderation: true, notes: true, placements: true })
  return (
    <Dialog onClose={onClose}>
      <Form
        onSubmit={(e) => {
          e.preventDefault()
          void onCopy({ fromCourseId, assessmentId, componentId, take })
        }}
      >
        <Modal.Header closeButton>
          <DialogTitle>Copy an assessment</DialogTitle>
        </Modal.Header>
        <Modal.Body className="d-grid gap-3">
          {courses.data && others.length === 0 ? (
            <p className="soft">There is no course that you lead or oversee.</p>
          ) : (
            <>
              <Form.Group controlId="copy-course">
                <Form.Label className="soft small mb-0 d-block">From</Form.Label>
                <Form.Select value={fromCourseId} onChange={(e) => setCourse(e.target.value)}>
                  {others.map((c) => (
                    <option key={c.id} value={c.id}>
                      {c.code} {c.title}, {c.term}
                    </option>
                  ))}
                </Form.Select>
              </Form.Group>
              <Form.Group controlId="copy-assessment">
                <Form.Label className="soft small mb-0 d-block">Assessment</Form.Label>
                <Form.Select value={assessmentId} onChange={(e) => setAssessment(e.target.value)}>
                  {plan.data?.assessments.map((a) => (
                    <option key={a.id} value={a.id}>
                      {a.title}
                    </option>
                  ))}
                </Form.Select>
              </Form.Group>
              <InComponent id="copy-component" components={components} value={componentId} onChange={setComponent} />
              <fieldset>
                <legend className="soft small mb-1">Take along</legend>
                {Object.entries(WORDS).map(([key, words]) => (
                  <Form.Check
                    key={key}
                    id={`take-${key}`}
                    label={words}
                    checked={take[key as keyof Taken]}
                    onChange={(e) => setTake((t) => ({ ...t, [key]: e.target.checked }))}
                  />
                ))}
              </fieldset>
            </>
          )}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="link" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" disabled={assessmentId === '' || componentId === ''}>
            Copy it <kbd>Enter</kbd>
          </Button>
        </Modal.Footer>
      </Form>
    </Dialog>
  )
}
