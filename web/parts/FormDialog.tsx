import type { ReactNode } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { Dialog, DialogTitle } from './Dialog'
import { useController, type Control, type FieldValues, type Path, type UseFormRegisterReturn } from 'react-hook-form'
import type { Term } from '#core/roll'
import { DateField } from './DateField'

/** A dialog that takes a few fields: Enter sends them, Esc or Cancel leaves. */
export function FormDialog({
  title,
  action,
  busy,
  onSubmit,
  onClose,
  children,
}: {
  title: string
  /** What the button does, in a word or two. */
  action: string
  busy: boolean
  onSubmit: (e: React.FormEvent) => Promise<void>
  onClose: () => void
  children: ReactNode
}) {
  return (
    <Dialog onClose={onClose}>
      <Form onSubmit={(e) => void onSubmit(e)} noValidate>
        <Modal.Header closeButton>
          <DialogTitle>{title}</DialogTitle>
        </Modal.Header>
        <Modal.Body className="d-grid gap-3">{children}</Modal.Body>
        <Modal.Footer>
          <Button variant="link" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" disabled={busy}>
            {action} <kbd>Enter</kbd>
          </Button>
        </Modal.Footer>
      </Form>
    </Dialog>
  )
}

/** One field of a form: its label, the field, and what is wrong with it. */
export function FormField({
  id,
  label,
  field,
  error,
  wide = false,
  first = false,
  numeric = false,
}: {
  id: string
  label: string
  field: UseFormRegisterReturn
  error?: { message?: string }
  wide?: boolean
  /** Where the typing begins. */
  first?: boolean
  numeric?: boolean
}) {
  return (
    <Form.Group controlId={id} className={wide ? 'flex-grow-1' : undefined}>
      <Form.Label className="soft small mb-0">{label}</Form.Label>
      <Form.Control autoFocus={first} inputMode={numeric ? 'decimal' : undefined} {...field} isInvalid={!!error} />
      <Form.Control.Feedback type="invalid">{error?.message}</Form.Control.Feedback>
    </Form.Group>
  )
}

/** A day of a form; empty where it may be left so is null. */
export function FormDay<Body extends FieldValues>({
  id,
  label,
  name,
  control,
  term,
  error,
}: {
  id: string
  label: string
  name: Path<Body>
  control: Control<Body, unknown, Body>
  /** A date typed without a year is put nearest to it. */
  term?: Term
  error?: { message?: string }
}) {
  const { field } = useController({ name, control })
  return (
    <div>
      <Form.Label htmlFor={id} className="soft small mb-0 d-block">
        {label}
      </Form.Label>
      <DateField
        id={id}
        label={label}
        value={(field.value as string | null) ?? ''}
        term={term}
        isInvalid={!!error}
        onCommit={(day) => field.onChange(day === '' ? null : day)}
      />
      {error && <div className="invalid-feedback d-block">{error.message}</div>}
    </div>
  )
}

/** A choice among a few in a form. */
export function FormChoice({
  id,
  label,
  field,
  options,
}: {
  id: string
  label: string
  field: UseFormRegisterReturn
  options: readonly (readonly [value: string, words: string])[]
}) {
  return (
    <Form.Group controlId={id}>
      <Form.Label className="soft small mb-0 d-block">{label}</Form.Label>
      <Form.Select {...field}>
        {options.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  )
}

/** A typed number for a form; empty is null. */
export const orNull = { setValueAs: (v: unknown) => (v === '' || v === null ? null : Number(v)) }
/** A text for a form; empty is null. */
export const textOrNull = { setValueAs: (v: unknown) => (v === '' ? null : v) }
