import { zodResolver } from '@hookform/resolvers/zod'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Suspense, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import { doorRoutes } from '#contract/door'
import { call, messageOf } from '../api/client'
import { ByProvider } from './ByProvider'
import { later } from '../shell/code'
import { comeInAs } from './come-in-as'
import { installationQuery } from './installation-query'
import styles from './door.module.css'
import { Welcome } from './Welcome'
import sessionStyles from './session.module.css'

// Needed once in the life of an installation.
const SetUp = later(async () => ({ default: (await import('./SetUp')).SetUp }))

type Fields = z.input<typeof doorRoutes.signIn.body>

/** @param again somebody was signed in on this page before, and may still be typing: nothing here takes the focus */
export function SignIn({ again = false }: { again?: boolean }) {
  const queries = useQueryClient()
  const directory = useQuery({ queryKey: ['directory'], queryFn: () => call(doorRoutes.directory) })
  const installation = useQuery(installationQuery)
  const [problem, setProblem] = useState<string | null>(null)
  const { register, handleSubmit, formState } = useForm<Fields>({ resolver: zodResolver(doorRoutes.signIn.body) })
  const enter = async (fields: Fields) => {
    setProblem(null)
    try {
      comeInAs(queries, await call(doorRoutes.signIn, { body: fields }))
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  const people = directory.data?.people ?? []
  const [byPassphrase, setByPassphrase] = useState(false)
  // What is offered is known first: a field that moves under the hand is none.
  if (installation.isPending) return null
  if (installation.data?.needsSetUp)
    return (
      <Suspense>
        <SetUp />
      </Suspense>
    )
  const provider = installation.data?.provider ?? null
  const passphrases = (installation.data?.passphrases ?? true) || byPassphrase
  return (
    <Welcome department={installation.data?.department} demo={installation.data?.demo}>
      <h2>Sign in</h2>
      {again && (
        <p className="note" role="status">
          Your sign-in has ended, or somebody else has signed in in this browser. What you typed and was not saved is kept for you.
        </p>
      )}
      {provider !== null && (
        <div className={sessionStyles.atTheDoor}>
          <ByProvider name={provider} focus={!again} />
        </div>
      )}
      {provider !== null && passphrases && <h2>{byPassphrase ? 'Who administers, by passphrase' : 'Or by passphrase'}</h2>}
      {!passphrases && (
        <button className="quiet-button" onClick={() => setByPassphrase(true)}>
          Who administers can come in by passphrase
        </button>
      )}
      {passphrases && (
        <Form onSubmit={(e) => void handleSubmit(enter)(e)} noValidate>
          <Form.Group controlId="sign-in-name" className="mt-2">
            <Form.Label className="soft small mb-0">Sign-in</Form.Label>
            <Form.Control
              {...register('signIn')}
              autoComplete="username"
              autoFocus={byPassphrase || (provider === null && !again)}
              isInvalid={!!formState.errors.signIn}
            />
            <Form.Control.Feedback type="invalid">{formState.errors.signIn?.message}</Form.Control.Feedback>
          </Form.Group>
          <Form.Group controlId="sign-in-passphrase" className="mt-2">
            <Form.Label className="soft small mb-0">Passphrase</Form.Label>
            <Form.Control
              type="password"
              {...register('passphrase')}
              autoComplete="current-password"
              isInvalid={!!formState.errors.passphrase}
            />
            <Form.Control.Feedback type="invalid">{formState.errors.passphrase?.message}</Form.Control.Feedback>
          </Form.Group>
          {problem && (
            <p className="note bad" role="alert">
              {problem}
            </p>
          )}
          <Button type="submit" className="mt-3" disabled={formState.isSubmitting}>
            Sign in
          </Button>
        </Form>
      )}
      {people.length > 0 && directory.data?.passphrase && (
        <section className="mt-4">
          <h2>Or come in as somebody of the demo</h2>
          <ul className={styles.people}>
            {people.map((p) => (
              <li key={p.signIn}>
                <button onClick={() => void enter({ signIn: p.signIn, passphrase: directory.data.passphrase! })}>
                  <b>{p.name}</b>
                  <span className="soft small">{p.does}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
    </Welcome>
  )
}
