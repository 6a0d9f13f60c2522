import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { foldedName } from '#core/roll'
import { routes, type PersonState } from '#contract'
import { call, messageOf } from '../api/client'
import { useKeys } from '../settings/keys'
import { counted, shownAt } from '../parts/format'
import { AddPeople } from './AddPeople'
import { PersonCloseUp } from './PersonCloseUp'
import { KeyCap } from '../settings/KeyCap'
import { CloseUp } from '../parts/CloseUp'
import styles from './installation.module.css'

export const STATE_WORDS: Record<PersonState, string> = { in: 'in', invited: 'invited', inactive: 'not active' }
const AT_ONCE = 200

/** Everybody of the installation: found by typing, chosen with the mouse or the arrow keys. */
export function PeoplePart() {
  const people = useQuery({ queryKey: ['people'], queryFn: () => call(routes.people) })
  const [find, setFind] = useState('')
  const [state, setState] = useState<PersonState | 'all'>('all')
  const [chosen, setChosen] = useState<string | null>(null)
  const [adding, setAdding] = useState(false)
  const wanted = foldedName(find)
  const found = useMemo(
    () =>
      (people.data ?? []).filter(
        (p) =>
          (state === 'all' || p.state === state) &&
          (wanted === '' || [p.name, p.signIn, p.email ?? '', ...p.roles].some((text) => foldedName(text).includes(wanted))),
      ),
    [people.data, wanted, state],
  )
  const shown = found.slice(0, AT_ONCE)
  const at = shown.findIndex((p) => p.id === chosen)
  const person = people.data?.find((p) => p.id === chosen)
  const go = (by: number) => {
    const next = shown[Math.max(0, Math.min(shown.length - 1, at + by))]
    if (next) setChosen(next.id)
  }
  useKeys([
    { key: 'ArrowDown', does: 'the next person', run: () => go(1) },
    { key: 'ArrowUp', does: 'the person before', run: () => go(at < 0 ? 1 : -1) },
    { key: '+', does: 'add people', run: () => setAdding(true) },
  ])
  if (people.error) return <main className="empty">{messageOf(people.error)}</main>
  if (!people.data) return <main className="empty">Fetching who is here…</main>
  const count = (s: PersonState) => people.data.filter((p) => p.state === s).length
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>Who is here</h1>
          <div className="at-end d-flex gap-3 align-items-center">
            <Form.Control
              size="sm"
              type="search"
              className={styles.findPeople}
              aria-label="Find people"
              placeholder="name, sign-in, course"
              value={find}
              onChange={(e) => setFind(e.target.value)}
            />
            <Button size="sm" onClick={() => setAdding(true)}>
              Add people <KeyCap cap="+" />
            </Button>
          </div>
        </div>
        <div className="words-choice mb-2" role="group" aria-label="Which people">
          {(['all', 'in', 'invited', 'inactive'] as const).map((s) => (
            <button key={s} aria-pressed={state === s} onClick={() => setState(s)}>
              {s === 'all' ? `everybody ${people.data.length}` : `${STATE_WORDS[s]} ${count(s)}`}
            </button>
          ))}
        </div>
        <table className="grid" aria-label={counted(found.length, 'person', 'people')}>
          <thead>
            <tr>
              <th>name</th>
              <th>sign-in</th>
              <th>state</th>
              <th>parts in courses</th>
              <th>last here</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((p) => (
              <tr key={p.id} className={`pick ${p.id === chosen ? 'chosen' : ''}`} onClick={() => setChosen(p.id)}>
                <td>
                  <button className="row-name" aria-pressed={p.id === chosen} onClick={() => setChosen(p.id)}>
                    {p.name}
                  </button>
                  {p.admin && <span className="soft small"> · administers</span>}
                </td>
                <td className={`soft ${styles.cut}`}>{p.signIn}</td>
                <td className={p.state === 'invited' && !p.linkEnds ? 'ochre' : p.state === 'in' ? '' : 'soft'}>
                  {p.state === 'invited' && !p.linkEnds ? 'invited, link ended' : STATE_WORDS[p.state]}
                </td>
                <td className={`soft ${styles.cut} ${styles.parts}`} title={p.roles.join('; ')}>
                  {p.roles.length === 0 ? 'none' : p.roles[0]}
                  {p.roles.length > 1 && ` and ${p.roles.length - 1} more`}
                </td>
                <td className="soft text-nowrap">{p.lastSignIn ? shownAt(p.lastSignIn, 'd MMM yyyy, HH:mm') : 'never'}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {found.length > AT_ONCE && (
          <p className="soft small mt-2">
            The first {AT_ONCE} of {found.length}: type to find others.
          </p>
        )}
        {found.length === 0 && <p className="empty">Nobody is called that, or plays such a part.</p>}
      </main>
      <CloseUp>
        {person ? (
          <PersonCloseUp key={person.id} person={person} />
        ) : (
          <p className="soft">
            Choose somebody to see their parts, invite them anew, or let them in no more. Nobody is deleted: what they did stays theirs.
          </p>
        )}
      </CloseUp>
      {adding && <AddPeople onClose={() => setAdding(false)} />}
    </div>
  )
}
