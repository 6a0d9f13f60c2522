import { zodResolver } from '@hookform/resolvers/zod'
import { Form } from 'react-bootstrap'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import { routes } from '#contract'
import { FormChoice, FormDialog, FormField, orNull } from '../../../parts/FormDialog'

type Body = z.input<typeof routes.addComponent.body>

export function NewComponent({ first, onAdd, onClose }: { first: boolean; onAdd: (body: Body) => Promise<void>; onClose: () => void }) {
  const { register, handleSubmit, formState } = useForm<Body>({
    resolver: zodResolver(routes.addComponent.body),
    defaultValues: { title: '', weight: first ? 100 : null, combine: 'byWorth', dropLowest: 0, bonus: false },
  })
  const { errors } = formState
  return (
    <FormDialog title="New component" action="Add" busy={formState.isSubmitting} onSubmit={handleSubmit(onAdd)} onClose={onClose}>
      <FormField id="component-title" label="Title" field={register('title')} error={errors.title} first />
      <div className="d-flex gap-4">
        <FormField
          id="component-weight"
          label="Weight (may be left empty)"
          field={register('weight', orNull)}
          error={errors.weight}
          numeric
        />
        <FormChoice
          id="component-combine"
          label="Its assessments count"
          field={register('combine')}
          options={[
            ['byWorth', 'by worth'],
            ['equally', 'all alike'],
          ]}
        />
        <FormField
          id="component-drop"
          label="Worst ones dropped"
          field={register('dropLowest', { valueAsNumber: true })}
          error={errors.dropLowest}
          numeric
        />
      </div>
      <Form.Check id="component-bonus" label="a bonus: its weight is in points of the course percent" {...register('bonus')} />
    </FormDialog>
  )
}
