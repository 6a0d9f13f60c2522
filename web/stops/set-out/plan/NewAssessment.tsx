import { zodResolver } from '@hookform/resolvers/zod'
import { Form } from 'react-bootstrap'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import { MARKINGS, wayTitle } from '#core/marking'
import { routes, type Component } from '#contract'
import { FormChoice, FormDialog, FormField, orNull } from '../../../parts/FormDialog'

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
  return (
    <FormDialog title="New assessment" action="Add" busy={formState.isSubmitting} onSubmit={handleSubmit(onAdd)} onClose={onClose}>
      <FormField id="new-title" label="Title" field={register('title')} error={errors.title} first />
      <FormChoice
        id="new-component"
        label="Component"
        field={register('componentId')}
        options={components.map((c) => [c.id, c.title] as const)}
      />
      <FormChoice
        id="new-marking"
        label="How it is marked"
        field={register('marking')}
        options={MARKINGS.map((m) => [m, wayTitle(m)] as const)}
      />
      <div className="d-flex gap-4">
        <FormField id="new-out-of" label="Marked out of" field={register('outOf', orNull)} error={errors.outOf} numeric />
        <FormField id="new-worth" label="Worth inside it; empty: the same" field={register('worth', orNull)} error={errors.worth} numeric />
      </div>
      <Form.Check id="new-placed" label="set for all sections, with dates to follow" {...register('placed')} />
      {hasMarks && (
        <p className="soft small mb-0">
          There are marks already, so it is recorded but does not count until you tick “counts” and adopt that.
        </p>
      )}
    </FormDialog>
  )
}
