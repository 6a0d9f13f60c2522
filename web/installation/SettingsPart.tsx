import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { ProviderMode, routes, STAND_IN, type Settings, type SignOn } from '#contract'
import { call, messageOf } from '../api/client'
import { useWrites } from '../saving/writes'
import { NumberField } from '../parts/NumberField'
import { TitleField } from '../parts/TitleField'
import { installationQuery } from '../session/installation-query'
import { ProviderDialog } from './ProviderDialog'
import { CloseUp } from '../parts/CloseUp'
import styles from './installation.module.css'

const settingsKey = ['installation settings'] as const

/** What holds for the whole installation: its name, and how people come in. */
export function SettingsPart() {
  const settings = useQuery({ queryKey: settingsKey, queryFn: () => call(routes.settings) })
  const change = useChange()
  if (settings.error) return <main className="empty">{messageOf(settings.error)}</main>
  if (!settings.data) return <main className="empty">Fetching the settings…</main>
  const { department, namelessAfter, standIn } = settings.data
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>Settings</h1>
        </div>
        <dl className={`fields ${styles.settings}`}>
          <dt>department</dt>
          <dd>
            <TitleField
              label="Department"
              value={department}
              disabled={false}
              onCommit={(name) => void change('the department’s name', { department: name }, { department })}
            />
          </dd>
        </dl>
        <ComingIn settings={settings.data} />
        <section aria-labelledby="nameless">
          <h2 id="nameless">Courses that are over</h2>
          <p className="d-flex align-items-baseline gap-2 mb-1">
            A course can be made nameless
            <NumberField
              label="Days after which a course can be made nameless"
              value={namelessAfter}
              min={0}
              max={36_500}
              className="short"
              onCommit={(days) =>
                days !== null && void change('when courses can be made nameless', { namelessAfter: days }, { namelessAfter })
              }
            />
            days after it was put away.
          </p>
          <p className="soft small">
            Its students’ names, works and remarks are erased then, by whoever administers and at courses; its figures and decisions stay.
          </p>
        </section>
      </main>
      <CloseUp label="For the provider">
        <ForTheProvider settings={settings.data} />
        {standIn !== null && <StandInProviderMode mode={standIn} />}
      </CloseUp>
    </div>
  )
}

/** Changes settings, with the way back. */
function useChange() {
  const { write } = useWrites()
  const queries = useQueryClient()
  return (label: string, what: { department?: string; signOn?: SignOn; namelessAfter?: number }, back: typeof what) => {
    const show = (of: typeof what) => queries.setQueryData<Settings>(settingsKey, (now) => now && { ...now, ...of })
    const send = async (body: typeof what, otherwise: typeof what) => {
      show(body)
      // The version is that of the latest answer, also when it is undone.
      const { version } = queries.getQueryData<Settings>(settingsKey)!
      const now = await call(routes.setSettings, { body: { version, ...body } }).catch((e: unknown) => {
        // What the server refuses goes back to what it was.
        show(otherwise)
        throw e
      })
      queries.setQueryData(settingsKey, now)
      await queries.invalidateQueries({ queryKey: installationQuery.queryKey })
      return true
    }
    // Shown at once, also where another write has its turn before it.
    show(what)
    return write(
      label,
      () => send(what, back),
      () => send(back, what),
    )
  }
}

function ComingIn({ settings: { signOn, standIn } }: { settings: Settings }) {
  const change = useChange()
  const [editing, setEditing] = useState(false)
  const { passphrases, provider } = signOn
  const set = (label: string, next: SignOn) => change(label, { signOn: next }, { signOn })
  return (
    <section aria-labelledby="coming-in">
      <h2 id="coming-in">Coming in</h2>
      {provider ? (
        <dl className={`fields ${styles.settings}`}>
          <dt>provider</dt>
          <dd className="ps-1">
            <b>{provider.name}</b>
          </dd>
          <dt>issuer</dt>
          <dd className="ps-1">{provider.issuer === STAND_IN ? 'the stand-in that ships with Level Table' : provider.issuer}</dd>
          <dt>known there as</dt>
          <dd className="ps-1">{provider.clientId}</dd>
          <dt>sign-in</dt>
          <dd className="ps-1">
            its claim&nbsp;<code>{provider.claim}</code>
          </dd>
          <dt>whom nobody knows</dt>
          <dd className="ps-1">{provider.makesPeople ? 'is made a person at their first sign-in, without any part' : 'is not let in'}</dd>
        </dl>
      ) : (
        <p className="soft">
          By passphrase. A provider that speaks OpenID Connect, as many institutions have one, can let people in beside that or in its
          place.
        </p>
      )}
      <div className="d-flex gap-3 align-items-center my-2">
        <Button size="sm" variant={provider ? 'outline-primary' : 'primary'} onClick={() => setEditing(true)}>
          {provider ? 'Change it…' : 'Name a provider…'}
        </Button>
        {provider && (
          <Button size="sm" variant="link" onClick={() => void set('no provider', { passphrases: true, provider: null })}>
            Leave it out
          </Button>
        )}
      </div>
      {provider && (
        <>
          <Form.Check
            id="passphrases-too"
            label="Passphrases too"
            checked={passphrases}
            onChange={(e) =>
              void set(e.target.checked ? 'passphrases too' : 'no passphrases', { ...signOn, passphrases: e.target.checked })
            }
          />
          <p className="soft small mt-1">
            Without them only who administers can still come in by one, so that a provider that fails shuts nobody out for good.
          </p>
        </>
      )}
      {editing && (
        <ProviderDialog
          provider={provider}
          hasStandIn={standIn !== null}
          onSave={async (next) => (await set('the provider', { passphrases, provider: next })) !== null}
          onClose={() => setEditing(false)}
        />
      )}
    </section>
  )
}

function ForTheProvider({ settings: { backTo, secret } }: { settings: Settings }) {
  return (
    <section>
      <h2>What the provider has to know</h2>
      <p>It sends people back to this address, and has to be told so:</p>
      <input className={styles.linkMade} readOnly aria-label="Address to come back to" value={backTo} onFocus={(e) => e.target.select()} />
      <p className="mt-3">
        {secret
          ? 'The server was started with a secret for it.'
          : 'The server was started without a secret for it: that is right where the provider asks for none. One is given to the server as LEVEL_TABLE_SIGN_ON_SECRET, and never shown.'}
      </p>
      <p className="soft">
        Somebody who came in once is known by what the provider calls them for good. A sign-in that is given to somebody else over there
        lets nobody into the account of who had it before; invite them again where that is meant.
      </p>
    </section>
  )
}

function StandInProviderMode({ mode }: { mode: ProviderMode }) {
  const { write } = useWrites()
  const queries = useQueryClient()
  const send = async (next: ProviderMode) => {
    queries.setQueryData(settingsKey, await call(routes.setProviderMode, { body: { mode: next } }))
    return true
  }
  return (
    <section>
      <h2>Stand-in</h2>
      <p className="soft">A provider ships with Level Table to try this with. It believes whoever says who they are.</p>
      <Form.Group controlId="stand-in-mode" className="d-flex align-items-center gap-2">
        <Form.Label className="mb-0">It</Form.Label>
        <Form.Select
          size="sm"
          value={mode}
          onChange={(e) => {
            const next = ProviderMode.parse(e.target.value)
            void write(
              `the stand-in ${next}`,
              () => send(next),
              () => send(mode),
            )
          }}
        >
          {ProviderMode.options.map((m) => (
            <option key={m}>{m}</option>
          ))}
        </Form.Select>
      </Form.Group>
    </section>
  )
}
