import { zodResolver } from '@hookform/resolvers/zod'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import { routes, type Plan, type RollSection } from '#contract'
import { FormChoice, FormDay, FormDialog, FormField, textOrNull } from '../../../parts/FormDialog'
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
  const { register, control, handleSubmit, formState } = useForm<Body>({
    resolver: zodResolver(routes.addStudent.body),
    defaultValues: {
      name: '',
      candidate: '',
      externalId: null,
      signIn: null,
      sectionId: sectionId ?? sections[0]?.id ?? '',
      from: dayFor(plan.head),
    },
  })
  const { errors } = formState
  return (
    <FormDialog title="New student" action="Add" busy={formState.isSubmitting} onSubmit={handleSubmit(onAdd)} onClose={onClose}>
      <FormField id="student-name" label="Name" field={register('name')} error={errors.name} first />
      <div className="d-flex gap-4">
        <FormField id="student-candidate" label="Candidate number" field={register('candidate')} error={errors.candidate} />
        <FormField
          id="student-external"
          label="External id (may be empty)"
          field={register('externalId', textOrNull)}
          error={errors.externalId}
        />
      </div>
      <FormField
        id="student-sign-in"
        label="Sign-in or mail address (may be empty)"
        field={register('signIn', textOrNull)}
        error={errors.signIn}
      />
      <div className="d-flex gap-4">
        <FormChoice
          id="student-section"
          label="Section"
          field={register('sectionId')}
          options={sections.map((s) => [s.id, s.name] as const)}
        />
        <FormDay id="student-from" label="From" name="from" control={control} term={plan.head} error={errors.from} />
      </div>
    </FormDialog>
  )
}
