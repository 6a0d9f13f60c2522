import { zodResolver } from '@hookform/resolvers/zod'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useForm } from 'react-hook-form'
import { Provider, routes, STAND_IN, type FoundProvider } from '#contract'
import { call, messageOf } from '../api/client'
import { FormDialog, FormField } from '../parts/FormDialog'

const NEW: Provider = { name: '', issuer: '', clientId: 'level-table', claim: 'preferred_username', makesPeople: false }

/** A provider's address and what is taken from it; it can be asked who it is before anybody is sent to it. */
export function ProviderDialog({
  provider,
  hasStandIn,
  onSave,
  onClose,
}: {
  provider: Provider | null
  hasStandIn: boolean
  /** @returns whether it was taken */
  onSave: (provider: Provider) => Promise<boolean>
  onClose: () => void
}) {
  const { register, handleSubmit, formState, setValue, getValues } = useForm<Provider>({
    resolver: zodResolver(Provider),
    defaultValues: provider ?? NEW,
  })
  const [found, setFound] = useState<FoundProvider | string | null>(null)
  const { errors } = formState
  const tryIt = handleSubmit(async (body) => {
    setFound(null)
    setFound(await call(routes.tryProvider, { body }).catch((e: unknown) => messageOf(e)))
  })
  const save = handleSubmit(async (next) => {
    if (await onSave(next)) onClose()
  })
  const missing = typeof found === 'object' && found !== null && found.claims.length > 0 && !found.claims.includes(getValues('claim'))
  return (
    <FormDialog title="The sign-on provider" action="Save" busy={formState.isSubmitting} onSubmit={save} onClose={onClose}>
      <FormField id="provider-name" label="What people know it as" field={register('name')} error={errors.name} first />
      <div>
        <FormField id="provider-issuer" label="Its address (issuer)" field={register('issuer')} error={errors.issuer} />
        {hasStandIn && (
          <Button size="sm" variant="link" className="px-0" onClick={() => setValue('issuer', STAND_IN, { shouldDirty: true })}>
            Take the stand-in
          </Button>
        )}
      </div>
      <div className="d-flex gap-3">
        <FormField id="provider-client" label="Known there as (client id)" field={register('clientId')} error={errors.clientId} wide />
        <FormField id="provider-claim" label="Claim that is people’s sign-in" field={register('claim')} error={errors.claim} wide />
      </div>
      <Form.Check
        id="provider-makes"
        label="Whom it knows and nobody here does is made a person at their first sign-in, without any part"
        {...register('makesPeople')}
      />
      <div>
        <Button size="sm" variant="outline-primary" onClick={() => void tryIt()}>
          Ask it who it is
        </Button>
        <p role="status" className={typeof found === 'string' || missing ? 'note bad mt-2 mb-0' : 'mt-2 mb-0'}>
          {typeof found === 'string' && found}
          {typeof found === 'object' && found !== null && (
            <>
              It answers, as {found.issuer}. {found.claims.length > 0 && `It knows the claims ${found.claims.join(', ')}.`}
              {missing && ` ${getValues('claim')} is not among them.`}
            </>
          )}
        </p>
      </div>
    </FormDialog>
  )
}
