import { zodResolver } from '@hookform/resolvers/zod'
import { useQueryClient } from '@tanstack/react-query'
import { Button, Form } from 'react-bootstrap'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import { doorRoutes } from '#contract/door'
import { call } from '../api/client'
import { FormField, textOrNull } from '../parts/FormDialog'
import { comeInAs } from './come-in-as'
import { PassphraseField } from './PassphraseField'
import { refusedIn } from './refused-in'
import { Welcome } from './Welcome'

type Body = z.infer<typeof doorRoutes.setUp.body>

/** The first person of an installation, with the code from its console. */
export function SetUp() {
  const queries = useQueryClient()
  const { register, handleSubmit, formState, watch, setError } = useForm<Body>({
    resolver: zodResolver(doorRoutes.setUp.body),
    defaultValues: { code: '', department: '', name: '', signIn: '', email: null, passphrase: '' },
  })
  const { errors } = formState
  const setUp = async (body: Body) => {
    try {
      const me = await call(doorRoutes.setUp, { body })
      await queries.invalidateQueries({ queryKey: ['installation'] })
      comeInAs(queries, me)
    } catch (e) {
      refusedIn(e, setError)
    }
  }
  return (
    <Welcome>
      <h2>Set up this installation</h2>
      <p className="soft">
        Nobody is here yet. The code stands in the console that the server was started from. Whoever sets it up runs the installation:
        people and courses, and no marks by that alone.
      </p>
      <Form className="d-grid gap-2" onSubmit={(e) => void handleSubmit(setUp)(e)} noValidate>
        <FormField id="set-up-code" label="Code from the console" field={register('code')} error={errors.code} first />
        <FormField id="set-up-department" label="Department" field={register('department')} error={errors.department} />
        <FormField id="set-up-name" label="Your name" field={register('name')} error={errors.name} />
        <div className="d-flex gap-3">
          <FormField id="set-up-sign-in" label="Sign-in" field={register('signIn')} error={errors.signIn} wide />
          <FormField id="set-up-email" label="Mail address, if you like" field={register('email', textOrNull)} error={errors.email} wide />
        </div>
        <PassphraseField
          id="set-up-passphrase"
          label="Passphrase"
          field={register('passphrase')}
          value={watch('passphrase')}
          own={[watch('name'), watch('signIn')]}
          error={errors.passphrase}
        />
        {errors.root && (
          <p className="note bad mb-0" role="alert">
            {errors.root.message}
          </p>
        )}
        <div>
          <Button type="submit" disabled={formState.isSubmitting}>
            Set it up
          </Button>
        </div>
      </Form>
    </Welcome>
  )
}
