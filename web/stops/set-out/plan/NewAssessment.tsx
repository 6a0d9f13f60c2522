import { zodResolver } from '@hookform/resolvers/zod'
import { Button, Form, Modal } from 'react-bootstrap'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import { routes, type Component } from '#contract'
import { MARKINGS } from './markings'

type Body = z.input<typeof routes.addAssessment.body>

export function NewAssessment({
  components,
  hasMarks,
  onAdd,
  onClose,
}: {
  components: Component[]
  hasMarks: boolean
  onAdd: (body: Body) => Promise<void>
  onClose: () => void
}) {
  const { register, handleSubmit, formState } = useForm<Body>({
    resolver: zodResolver(routes.addAssessment.body),
    defaultValues: { componentId: components[0]?.id ?? '', title: '', marking: 'direct', outOf: 20, worth: null, placed: true },
  })
  const { errors } = formState
  const number = { setValueAs: (v: unknown) => (v === '' || v === null ? null : Number(v)) }
  return (
    <Modal show onHide={onClose} centered animation={false}>
      <Form onSubmit={(e) => void handleSubmit(onAdd)(e)} noValidate>
        <Modal.Header closeButton>
          <Modal.Title>New assessment</Modal.Title>
        </Modal.Header>
        <Modal.Body className="d-grid gap-3">
          <Form.Group controlId="new-title">
            <Form.Label className="soft small mb-0">Title</Form.Label>
            <Form.Control autoFocus {...register('title')} isInvalid={!!errors.title} />
            <Form.Control.Feedback type="invalid">{errors.title?.message}</Form.Control.Feedback>
          </Form.Group>
          <Form.Group controlId="new-component">
            <Form.Label className="soft small mb-0 d-block">Component</Form.Label>
            <Form.Select {...register('componentId')}>
              {components.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.title}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Group controlId="new-marking">
            <Form.Label className="soft small mb-0 d-block">How it is marked</Form.Label>
            <Form.Select {...register('marking')}>
              {Object.entries(MARKINGS).map(([value, words]) => (
                <option key={value} value={value}>
                  {words}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <div className="d-flex gap-4">
            <Form.Group controlId="new-out-of">
              <Form.Label className="soft small mb-0">Marked out of</Form.Label>
              <Form.Control {...register('outOf', number)} inputMode="decimal" isInvalid={!!errors.outOf} />
              <Form.Control.Feedback type="invalid">{errors.outOf?.message}</Form.Control.Feedback>
            </Form.Group>
            <Form.Group controlId="new-worth">
              <Form.Label className="soft small mb-0">Worth inside it; empty: the same</Form.Label>
              <Form.Control {...register('worth', number)} inputMode="decimal" isInvalid={!!errors.worth} />
              <Form.Control.Feedback type="invalid">{errors.worth?.message}</Form.Control.Feedback>
            </Form.Group>
          </div>
          <Form.Check id="new-placed" label="set for all sections, with dates to follow" {...register('placed')} />
          {hasMarks && (
            <p className="soft small mb-0">
              There are marks already, so it is recorded but does not count until you tick “counts” and adopt that.
            </p>
          )}
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
