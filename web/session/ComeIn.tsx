import { zodResolver } from '@hookform/resolvers/zod'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Button, Form } from 'react-bootstrap'
import { useForm } from 'react-hook-form'
import { useLocation, useNavigate } from 'react-router'
import { z } from 'zod'
import { NewPassphrase } from '#contract'
import { doorRoutes } from '#contract/door'
import { call, messageOf } from '../api/client'
import { comeInAs } from './come-in-as'
import { PassphraseField } from './PassphraseField'
import { refusedIn } from './refused-in'
import { Welcome } from './Welcome'

const Fields = z.strictObject({ passphrase: NewPassphrase })
type Fields = z.infer<typeof Fields>

/** A one-time link leads here: choose a passphrase, and be in. */
export function ComeIn() {
  // Behind the #, where no server's log has it.
  const token = useLocation().hash.slice(1)
  const queries = useQueryClient()
  const navigate = useNavigate()
  const found = useQuery({ queryKey: ['way in', token], queryFn: () => call(doorRoutes.lookAtWayIn, { body: { token } }), retry: false })
  const { register, handleSubmit, formState, watch, setError } = useForm<Fields>({
    resolver: zodResolver(Fields),
    defaultValues: { passphrase: '' },
  })
  const choose = async ({ passphrase }: Fields) => {
    try {
      comeInAs(queries, await call(doorRoutes.useWayIn, { body: { token, passphrase } }))
      await navigate('/', { replace: true })
    } catch (e) {
      refusedIn(e, setError)
    }
  }
  if (found.isPending) return null
  if (!found.data)
    return (
      <Welcome>
        <h2>This link leads nowhere</h2>
        <p className="note bad" role="alert">
          {messageOf(found.error)}
        </p>
        <a href="/">Sign in</a>
      </Welcome>
    )
  const { name, signIn, kind, department } = found.data
  return (
    <Welcome department={department}>
      <h2>{kind === 'invitation' ? `Welcome, ${name}` : `A new passphrase, ${name}`}</h2>
      <p>
        Your sign-in is <b>{signIn}</b>. Choose the passphrase that goes with it; this link is used up by that
        {kind === 'reset' && ', and wherever you are signed in ends'}.
      </p>
      <Form className="d-grid gap-2" onSubmit={(e) => void handleSubmit(choose)(e)} noValidate>
        <input type="text" autoComplete="username" value={signIn} readOnly hidden />
        <PassphraseField
          id="come-in-passphrase"
          label="Passphrase"
          field={register('passphrase')}
          value={watch('passphrase')}
          own={[name, signIn]}
          error={formState.errors.passphrase}
        />
        {formState.errors.root && (
          <p className="note bad mb-0" role="alert">
            {formState.errors.root.message}
          </p>
        )}
        <div>
          <Button type="submit" disabled={formState.isSubmitting}>
            Come in
          </Button>
        </div>
      </Form>
    </Welcome>
  )
}
