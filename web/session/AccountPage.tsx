import { zodResolver } from '@hookform/resolvers/zod'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import type { Account } from '#contract'
import { doorRoutes } from '#contract/door'
import { call, messageOf } from '../api/client'
import { useSaved } from '../saving/saved'
import { useWrites } from '../saving/writes'
import { shownAt } from '../parts/format'
import { TitleField } from '../parts/TitleField'
import { AppearanceSettings } from '../settings/AppearanceSettings'
import { WritingSettings } from '../settings/WritingSettings'
import { DueDaysCalendar } from './DueDaysCalendar'
import { browserName } from './browser-name'
import { PassphraseField } from './PassphraseField'
import { PlainFrame } from './PlainFrame'
import { refusedIn } from './refused-in'
import styles from './session.module.css'

const accountKey = ['account'] as const

/** One's own account: name, passphrase, and where one is signed in. */
export default function AccountPage() {
  return (
    <PlainFrame title="Your account">
      <main className="table-side account">
        <div className="stop-head">
          <h1>Your account</h1>
        </div>
        <AccountParts />
      </main>
    </PlainFrame>
  )
}

function AccountParts() {
  const account = useQuery({ queryKey: accountKey, queryFn: () => call(doorRoutes.account) })
  if (account.error) return <p className="note bad">{messageOf(account.error)}</p>
  if (!account.data) return null
  return (
    <div className={styles.accountParts}>
      <div>
        <Own account={account.data} />
        {account.data.hasPassphrase && <ChangePassphrase account={account.data} />}
        <DueDaysCalendar />
      </div>
      <div>
        <Sessions account={account.data} />
        <WritingSettings />
        <AppearanceSettings />
      </div>
    </div>
  )
}

function Own({ account }: { account: Account }) {
  const { write } = useWrites()
  const queries = useQueryClient()
  const change = (what: { name?: string; email?: string | null }, back: typeof what) => {
    // The version is that of the latest answer, also when it is undone.
    const send = async (patch: typeof what) => {
      const { version } = queries.getQueryData<Account>(accountKey)!
      queries.setQueryData(accountKey, await call(doorRoutes.editAccount, { body: { version, ...patch } }))
      await queries.invalidateQueries({ queryKey: ['me'] })
    }
    void write(
      what.name === undefined ? 'your mail address' : 'your name',
      () => send(what),
      () => send(back),
    )
  }
  return (
    <section>
      <h2>Who you are</h2>
      <dl className="fields">
        <dt>name</dt>
        <dd>
          <TitleField
            label="Your name"
            value={account.name}
            disabled={false}
            onCommit={(name) => change({ name }, { name: account.name })}
          />
        </dd>
        <dt>mail address</dt>
        <dd>
          <TitleField
            label="Your mail address"
            value={account.email ?? ''}
            placeholder="none"
            optional
            disabled={false}
            onCommit={(email) => change({ email: email === '' ? null : email }, { email: account.email })}
          />
        </dd>
        <dt>sign-in</dt>
        <dd className="ps-1">{account.signIn}</dd>
      </dl>
    </section>
  )
}

type Change = z.infer<typeof doorRoutes.changePassphrase.body>

function ChangePassphrase({ account }: { account: Account }) {
  const { saving } = useSaved()
  const queries = useQueryClient()
  const [done, setDone] = useState(false)
  const { register, handleSubmit, formState, watch, setError, reset } = useForm<Change>({
    resolver: zodResolver(doorRoutes.changePassphrase.body),
    defaultValues: { old: '', passphrase: '' },
  })
  const { errors } = formState
  const change = async (body: Change) => {
    setDone(false)
    try {
      await saving(call(doorRoutes.changePassphrase, { body }))
      reset()
      setDone(true)
      await queries.invalidateQueries({ queryKey: accountKey })
    } catch (e) {
      refusedIn(e, setError)
    }
  }
  return (
    <section className="mt-4">
      <h2>Passphrase</h2>
      <Form className="d-grid gap-2" onSubmit={(e) => void handleSubmit(change)(e)} noValidate>
        <input type="text" autoComplete="username" value={account.signIn} readOnly hidden />
        <Form.Group controlId="passphrase-old">
          <Form.Label className="soft small mb-0">The one you have now</Form.Label>
          <Form.Control type="password" autoComplete="current-password" {...register('old')} isInvalid={!!errors.old} />
          <Form.Control.Feedback type="invalid">{errors.old?.message}</Form.Control.Feedback>
        </Form.Group>
        <PassphraseField
          id="passphrase-new"
          label="The new one"
          field={register('passphrase')}
          value={watch('passphrase')}
          own={[account.name, account.signIn]}
          error={errors.passphrase}
        />
        {errors.root && (
          <p className="note bad mb-0" role="alert">
            {errors.root.message}
          </p>
        )}
        <div className="d-flex align-items-center gap-3">
          <Button type="submit" size="sm" disabled={formState.isSubmitting}>
            Change it
          </Button>
          <span className="soft small" role="status">
            {done ? 'Changed. Wherever else you were signed in has ended.' : 'Wherever else you are signed in ends.'}
          </span>
        </div>
      </Form>
    </section>
  )
}

function Sessions({ account }: { account: Account }) {
  const { write } = useWrites()
  const queries = useQueryClient()
  const end = (label: string, send: () => Promise<unknown>) =>
    void write(label, send).then(() => queries.invalidateQueries({ queryKey: accountKey }))
  const others = account.sessions.filter((s) => !s.own).length
  return (
    <section aria-labelledby="own-sessions">
      <h2 id="own-sessions">Where you are signed in</h2>
      <table className="grid">
        <thead>
          <tr>
            <th>browser</th>
            <th>since</th>
            <th>last seen</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {account.sessions.map((s) => (
            <tr key={s.id}>
              <td>
                {browserName(s.browser)} {s.own && <span className="soft">· this one</span>}
              </td>
              <td className="soft text-nowrap">{shownAt(s.since, 'd MMM, HH:mm')}</td>
              <td className="soft text-nowrap">{shownAt(s.seenAt, 'd MMM, HH:mm')}</td>
              <td className="text-end">
                {!s.own && (
                  <Button
                    size="sm"
                    variant="link"
                    aria-label={`End ${browserName(s.browser)}, since ${shownAt(s.since, 'd MMM, HH:mm')}`}
                    onClick={() => end('end a session', () => call(doorRoutes.endSession, { params: { sessionId: s.id } }))}
                  >
                    End
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {others > 0 && (
        <Button
          size="sm"
          variant="outline-primary"
          className="mt-2"
          onClick={() => end('end all other sessions', () => call(doorRoutes.endOtherSessions))}
        >
          End all others ({others})
        </Button>
      )}
    </section>
  )
}
