import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { routes, type ListedPerson, type WayIn } from '#contract'
import { call } from '../api/client'
import { useSignedIn } from '../session/ahead'
import { useWrites } from '../saving/writes'
import { shownAt } from '../parts/format'
import { TitleField } from '../parts/TitleField'
import { LinksMade } from './LinksMade'

type Change = Partial<Pick<ListedPerson, 'name' | 'signIn' | 'email' | 'admin'> & { active: boolean }>

/** One person: who they are, their parts, and how they come in. */
export function PersonCloseUp({ person: p }: { person: ListedPerson }) {
  const me = useSignedIn()
  const { write } = useWrites()
  const queries = useQueryClient()
  const [links, setLinks] = useState<WayIn[] | null>(null)
  const change = (label: string, what: Change, back: Change) => {
    // The version is that of the latest answer, also when it is undone.
    const send = async (patch: Change) => {
      const version = queries.getQueryData<ListedPerson[]>(['people'])!.find((x) => x.id === p.id)!.version
      const now = await call(routes.editPerson, { params: { personId: p.id }, body: { version, ...patch } })
      queries.setQueryData<ListedPerson[]>(['people'], (all) => all?.map((x) => (x.id === now.id ? now : x)))
    }
    void write(
      label,
      () => send(what),
      () => send(back),
    )
  }
  const newLink = async () => {
    const made = await write(`a link for ${p.name}`, () => call(routes.makeWayIn, { params: { personId: p.id } }))
    if (made) setLinks([made])
  }
  const field = (key: 'name' | 'signIn' | 'email', label: string, optional = false) => (
    <TitleField
      label={`${label} of ${p.name}`}
      value={p[key] ?? ''}
      placeholder={optional ? 'none' : undefined}
      optional={optional}
      disabled={false}
      onCommit={(text) => change(`${label} of ${p.name}`, { [key]: text === '' ? null : text }, { [key]: p[key] })}
    />
  )
  return (
    <>
      <section>
        <h2>{p.name}</h2>
        <dl className="fields">
          <dt>name</dt>
          <dd>{field('name', 'name')}</dd>
          <dt>sign-in</dt>
          <dd>{field('signIn', 'sign-in')}</dd>
          <dt>mail address</dt>
          <dd>{field('email', 'mail address', true)}</dd>
          <dt>last here</dt>
          <dd className="ps-1">{p.lastSignIn ? shownAt(p.lastSignIn, 'd MMM yyyy, HH:mm') : 'never'}</dd>
        </dl>
      </section>
      <section>
        <h2>Parts in courses</h2>
        {p.roles.length === 0 ? (
          <p className="soft">None. A course’s lead gives them one, at Set out, people.</p>
        ) : (
          <ul className="list-unstyled mb-2">
            {p.roles.map((r) => (
              <li key={r}>{r}</li>
            ))}
          </ul>
        )}
      </section>
      <section>
        <h2>Coming in</h2>
        {p.state === 'inactive' ? (
          <>
            <p>Not active: they cannot come in. What they did stays theirs.</p>
            <Button size="sm" variant="outline-primary" onClick={() => change(`${p.name} back`, { active: true }, { active: false })}>
              Bring them back
            </Button>
          </>
        ) : (
          <>
            <p>
              {p.state === 'in'
                ? p.hasPassphrase
                  ? 'They have a passphrase. A new link lets them choose another one; wherever they are signed in ends.'
                  : 'They come in by the provider. Invited again, they are known by their sign-in there anew; wherever they are signed in ends.'
                : p.linkEnds
                  ? `Invited: their link is good until ${shownAt(p.linkEnds, 'EEEE d MMMM')}. A new one takes its place.`
                  : 'Invited, and the link has ended: send a new one.'}
            </p>
            <div className="buttons">
              <Button size="sm" variant="outline-primary" onClick={() => void newLink()}>
                {p.state === 'in' && p.hasPassphrase ? 'Reset the passphrase' : 'Invite again'}
              </Button>
              {p.id !== me.id && (
                <Button
                  size="sm"
                  variant="outline-primary"
                  onClick={() => change(`${p.name} not active`, { active: false }, { active: true })}
                >
                  Let in no more
                </Button>
              )}
            </div>
            {links && <LinksMade links={links} names={new Map([[p.id, p]])} />}
          </>
        )}
      </section>
      <section>
        <h2>The installation</h2>
        <p>{p.admin ? 'Administers: makes people and courses. That alone shows no marks.' : 'Does not administer the installation.'}</p>
        {p.state !== 'inactive' && (
          <Button
            size="sm"
            variant="outline-primary"
            onClick={() =>
              change(p.admin ? `${p.name} no longer administers` : `${p.name} administers`, { admin: !p.admin }, { admin: p.admin })
            }
          >
            {p.admin ? 'Administer no more' : 'Let them administer'}
          </Button>
        )}
      </section>
    </>
  )
}
