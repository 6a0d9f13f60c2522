import { zodResolver } from '@hookform/resolvers/zod'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import { routes, type Roll } from '#contract'
import { FormChoice, FormDay, FormDialog, FormField, textOrNull } from '../../../parts/FormDialog'
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
  const { register, control, handleSubmit, formState, watch, setValue } = useForm<Body>({
    resolver: zodResolver(routes.addSection.body),
    defaultValues: { code: '', name: '', teacherId: null, weekdays: [], firstDay: null },
  })
  const { errors } = formState
  return (
    <FormDialog title="New section" action="Add" busy={formState.isSubmitting} onSubmit={handleSubmit(onAdd)} onClose={onClose}>
      <div className="d-flex gap-4">
        <FormField id="section-code" label="Code" field={register('code')} error={errors.code} first />
        <FormField id="section-name" label="Name" field={register('name')} error={errors.name} wide />
      </div>
      <FormChoice
        id="section-teacher"
        label="Taught by"
        field={register('teacherId', textOrNull)}
        options={[['', 'nobody yet'], ...people.map((p) => [p.id, p.name] as const)]}
      />
      <div>
        <div className="soft small">Meets on</div>
        <WeekdayChoice value={watch('weekdays')} disabled={false} onChange={(days) => setValue('weekdays', days)} />
      </div>
      <FormDay id="section-first" label="First day (empty: with the term)" name="firstDay" control={control} />
    </FormDialog>
  )
}
