import { zodResolver } from '@hookform/resolvers/zod'
import { Button, Form, Modal } from 'react-bootstrap'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import { routes, type Roll } from '#contract'
import { WeekdayChoice } from './WeekdayChoice'

type Body = z.input<typeof routes.addSection.body>

export function NewSection({
  people,
  onAdd,
  onClose,
}: {
  people: Roll['people']
  onAdd: (body: Body) => Promise<void>
  onClose: () => void
}) {
  const { register, handleSubmit, formState, watch, setValue } = useForm<Body>({
    resolver: zodResolver(routes.addSection.body),
    defaultValues: { code: '', name: '', teacherId: null, weekdays: [], firstDay: null },
  })
  const { errors } = formState
  const orNull = { setValueAs: (v: unknown) => (v === '' ? null : v) }
  return (
    <Modal show onHide={onClose} centered animation={false}>
      <Form onSubmit={(e) => void handleSubmit(onAdd)(e)} noValidate>
        <Modal.Header closeButton>
          <Modal.Title>New section</Modal.Title>
        </Modal.Header>
        <Modal.Body className="d-grid gap-3">
          <div className="d-flex gap-4">
            <Form.Group controlId="section-code">
              <Form.Label className="soft small mb-0">Code</Form.Label>
              <Form.Control autoFocus {...register('code')} isInvalid={!!errors.code} />
              <Form.Control.Feedback type="invalid">{errors.code?.message}</Form.Control.Feedback>
            </Form.Group>
            <Form.Group controlId="section-name" className="flex-grow-1">
              <Form.Label className="soft small mb-0">Name</Form.Label>
              <Form.Control {...register('name')} isInvalid={!!errors.name} />
              <Form.Control.Feedback type="invalid">{errors.name?.message}</Form.Control.Feedback>
            </Form.Group>
          </div>
          <Form.Group controlId="section-teacher">
            <Form.Label className="soft small mb-0 d-block">Taught by</Form.Label>
            <Form.Select {...register('teacherId', orNull)}>
              <option value="">nobody yet</option>
              {people.map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <div>
            <div className="soft small">Meets on</div>
            <WeekdayChoice value={watch('weekdays')} disabled={false} onChange={(days) => setValue('weekdays', days)} />
          </div>
          <Form.Group controlId="section-first">
            <Form.Label className="soft small mb-0">First day (empty: with the term)</Form.Label>
            <Form.Control type="date" {...register('firstDay', orNull)} />
          </Form.Group>
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
