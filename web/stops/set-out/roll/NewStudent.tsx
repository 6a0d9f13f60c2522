import { zodResolver } from '@hookform/resolvers/zod'
import { Button, Form, Modal } from 'react-bootstrap'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import { routes, type Plan, type RollSection } from '#contract'
import { dayFor } from './edits'

type Body = z.input<typeof routes.addStudent.body>

export function NewStudent({
  sections,
  sectionId,
  plan,
  onAdd,
  onClose,
}: {
  sections: RollSection[]
  sectionId: string | null
  plan: Plan
  onAdd: (body: Body) => Promise<void>
  onClose: () => void
}) {
  const { register, handleSubmit, formState } = useForm<Body>({
    resolver: zodResolver(routes.addStudent.body),
    defaultValues: { name: '', candidate: '', externalId: null, sectionId: sectionId ?? sections[0]?.id ?? '', from: dayFor(plan.head) },
  })
  const { errors } = formState
  return (
    <Modal show onHide={onClose} centered animation={false}>
      <Form onSubmit={(e) => void handleSubmit(onAdd)(e)} noValidate>
        <Modal.Header closeButton>
          <Modal.Title>New student</Modal.Title>
        </Modal.Header>
        <Modal.Body className="d-grid gap-3">
          <Form.Group controlId="student-name">
            <Form.Label className="soft small mb-0">Name</Form.Label>
            <Form.Control autoFocus {...register('name')} isInvalid={!!errors.name} />
            <Form.Control.Feedback type="invalid">{errors.name?.message}</Form.Control.Feedback>
          </Form.Group>
          <div className="d-flex gap-4">
            <Form.Group controlId="student-candidate">
              <Form.Label className="soft small mb-0">Candidate number</Form.Label>
              <Form.Control {...register('candidate')} isInvalid={!!errors.candidate} />
              <Form.Control.Feedback type="invalid">{errors.candidate?.message}</Form.Control.Feedback>
            </Form.Group>
            <Form.Group controlId="student-external">
              <Form.Label className="soft small mb-0">External id (may be empty)</Form.Label>
              <Form.Control {...register('externalId', { setValueAs: (v: unknown) => (v === '' ? null : v) })} />
            </Form.Group>
          </div>
          <div className="d-flex gap-4">
            <Form.Group controlId="student-section">
              <Form.Label className="soft small mb-0 d-block">Section</Form.Label>
              <Form.Select {...register('sectionId')}>
                {sections.map((s) => (
                  <option key={s.id} value={s.id}>
                    {s.name}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
            <Form.Group controlId="student-from">
              <Form.Label className="soft small mb-0">From</Form.Label>
              <Form.Control type="date" {...register('from')} isInvalid={!!errors.from} />
            </Form.Group>
          </div>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="link" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" disabled={formState.isSubmitting}>
            Add <kbd>Enter</kbd>
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  )
}
