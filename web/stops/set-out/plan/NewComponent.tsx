import { zodResolver } from '@hookform/resolvers/zod'
import { Button, Form, Modal } from 'react-bootstrap'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import { routes } from '#contract'

type Body = z.input<typeof routes.addComponent.body>

export function NewComponent({ first, onAdd, onClose }: { first: boolean; onAdd: (body: Body) => Promise<void>; onClose: () => void }) {
  const { register, handleSubmit, formState } = useForm<Body>({
    resolver: zodResolver(routes.addComponent.body),
    defaultValues: { title: '', weight: first ? 100 : null, combine: 'byWorth', dropLowest: 0, bonus: false },
  })
  const { errors } = formState
  const number = { setValueAs: (v: unknown) => (v === '' || v === null ? null : Number(v)) }
  return (
    <Modal show onHide={onClose} centered animation={false}>
      <Form onSubmit={(e) => void handleSubmit(onAdd)(e)} noValidate>
        <Modal.Header closeButton>
          <Modal.Title>New component</Modal.Title>
        </Modal.Header>
        <Modal.Body className="d-grid gap-3">
          <Form.Group controlId="component-title">
            <Form.Label className="soft small mb-0">Title</Form.Label>
            <Form.Control autoFocus {...register('title')} isInvalid={!!errors.title} />
            <Form.Control.Feedback type="invalid">{errors.title?.message}</Form.Control.Feedback>
          </Form.Group>
          <div className="d-flex gap-4">
            <Form.Group controlId="component-weight">
              <Form.Label className="soft small mb-0">Weight (may be left empty)</Form.Label>
              <Form.Control {...register('weight', number)} inputMode="decimal" isInvalid={!!errors.weight} />
              <Form.Control.Feedback type="invalid">{errors.weight?.message}</Form.Control.Feedback>
            </Form.Group>
            <Form.Group controlId="component-combine">
              <Form.Label className="soft small mb-0 d-block">Its assessments count</Form.Label>
              <Form.Select {...register('combine')}>
                <option value="byWorth">by worth</option>
                <option value="equally">all alike</option>
              </Form.Select>
            </Form.Group>
            <Form.Group controlId="component-drop">
              <Form.Label className="soft small mb-0">Worst ones dropped</Form.Label>
              <Form.Control {...register('dropLowest', { valueAsNumber: true })} inputMode="numeric" isInvalid={!!errors.dropLowest} />
            </Form.Group>
          </div>
          <Form.Check id="component-bonus" label="a bonus: its weight is in points of the course percent" {...register('bonus')} />
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
