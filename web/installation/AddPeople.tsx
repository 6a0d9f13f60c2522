import { zodResolver } from '@hookform/resolvers/zod'
import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form, Modal } from 'react-bootstrap'
import { useForm } from 'react-hook-form'
import type { z } from 'zod'
import { NewPerson, routes, type TriedPeople, type WayIn } from '#contract'
import { call, messageOf } from '../api/client'
import { useSaved } from '../saving/saved'
import { useWrites } from '../saving/writes'
import { Dialog, DialogTitle } from '../parts/Dialog'
import { FormField, textOrNull } from '../parts/FormDialog'
import { counted } from '../parts/format'
import { refusedIn } from '../session/refused-in'
import { LinksMade } from './LinksMade'
import styles from './installation.module.css'

/** Adds one person, or many from a list that is tried first; each is invited by a one-time link. */
export function AddPeople({ onClose }: { onClose: () => void }) {
  const [many, setMany] = useState(false)
  const [made, setMade] = useState<{ links: WayIn[]; people: NewPerson[] } | null>(null)
  const { saving } = useSaved()
  const { write } = useWrites()
  const queries = useQueryClient()
  /** @throws where the server refuses */
  const add = async (people: NewPerson[]) => {
    const send = () => call(routes.addPeople, { body: { people } })
    let done: WayIn[] | null = await saving(send())
    setMade({ links: done, people })
    const label = people.length === 1 ? `add ${people[0]!.name}` : `add ${people.length} people`
    // Done already; done again, it is sent again.
    await write(
      label,
      async () => {
        const first = done
        done = null
        return first ?? send()
      },
      (links) => call(routes.removePeople, { body: { personIds: links.map((l) => l.personId) } }),
    )
    await queries.invalidateQueries({ queryKey: ['people'] })
  }
  return (
    <Dialog onClose={onClose} size={many ? 'lg' : undefined}>
      <Modal.Header closeButton>
        <DialogTitle>{made ? 'Invited' : 'Add people'}</DialogTitle>
      </Modal.Header>
      {made ? (
        <>
          <Modal.Body>
            <LinksMade links={made.links} names={new Map(made.links.map((l, i) => [l.personId, made.people[i]!]))} />
            <p className="soft small mb-0">They have no part in a course yet: its lead gives them one, at Set out, people.</p>
          </Modal.Body>
          <Modal.Footer>
            <Button onClick={onClose} autoFocus>
              Done
            </Button>
          </Modal.Footer>
        </>
      ) : (
        <>
          <div className="words-choice px-3 pt-3" role="group" aria-label="How many">
            <button type="button" aria-pressed={!many} onClick={() => setMany(false)}>
              one person
            </button>
            <button type="button" aria-pressed={many} onClick={() => setMany(true)}>
              a list
            </button>
          </div>
          {many ? <AddMany add={add} onClose={onClose} /> : <AddOne add={add} onClose={onClose} />}
        </>
      )}
    </Dialog>
  )
}

interface Ways {
  add: (people: NewPerson[]) => Promise<void>
  onClose: () => void
}

function AddOne({ add, onClose }: Ways) {
  type Fields = z.input<typeof NewPerson>
  const { register, handleSubmit, formState, setError } = useForm<Fields, unknown, NewPerson>({
    resolver: zodResolver(NewPerson),
    defaultValues: { name: '', signIn: '', email: null },
  })
  const { errors } = formState
  const send = (person: NewPerson) => add([person]).catch((e: unknown) => refusedIn(e, setError))
  return (
    <Form onSubmit={(e) => void handleSubmit(send)(e)} noValidate>
      <Modal.Body className="d-grid gap-3">
        <FormField id="person-name" label="Name" field={register('name')} error={errors.name} first />
        <FormField id="person-sign-in" label="Sign-in" field={register('signIn')} error={errors.signIn} />
        <FormField id="person-email" label="Mail address, for the invitation" field={register('email', textOrNull)} error={errors.email} />
        {errors.root && (
          <p className="note bad mb-0" role="alert">
            {errors.root.message}
          </p>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="link" onClick={onClose}>
          Cancel
        </Button>
        <Button type="submit" disabled={formState.isSubmitting}>
          Invite <kbd>Enter</kbd>
        </Button>
      </Modal.Footer>
    </Form>
  )
}

function AddMany({ add, onClose }: Ways) {
  const [text, setText] = useState('')
  const [tried, setTried] = useState<TriedPeople | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  const attempt = async (work: () => Promise<void>) => {
    setProblem(null)
    setBusy(true)
    await work().catch((e: unknown) => setProblem(messageOf(e)))
    setBusy(false)
  }
  const type = (next: string) => {
    setText(next)
    setTried(null)
  }
  return (
    <>
      <Modal.Body className="d-grid gap-2">
        <Form.Group controlId="people-list">
          <Form.Label className="soft small mb-0">
            One person a line: name, sign-in, mail address. Or a CSV with a heading, or the users of a roster (OneRoster users.csv).
          </Form.Label>
          <Form.Control as="textarea" rows={tried ? 3 : 8} autoFocus value={text} onChange={(e) => type(e.target.value)} />
        </Form.Group>
        <input
          type="file"
          accept=".csv,.txt,text/csv,text/plain"
          aria-label="A file of people"
          onChange={(e) => void e.target.files?.[0]?.text().then(type)}
        />
        {problem && (
          <p className="note bad mb-0" role="alert">
            {problem}
          </p>
        )}
        {tried && <TriedList tried={tried} />}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="link" onClick={onClose}>
          Cancel
        </Button>
        {tried === null ? (
          <Button
            disabled={busy || text.trim() === ''}
            onClick={() => void attempt(async () => setTried(await call(routes.tryPeople, { body: { text } })))}
          >
            Try it
          </Button>
        ) : (
          <Button disabled={busy || tried.people.length === 0} onClick={() => void attempt(() => add(tried.people))}>
            Invite {counted(tried.people.length, 'person', 'people')}
          </Button>
        )}
      </Modal.Footer>
    </>
  )
}

const DOES = { added: 'is added', known: 'is here already', refused: 'is left out' }

function TriedList({ tried }: { tried: TriedPeople }) {
  const count = (does: keyof typeof DOES) => tried.rows.filter((r) => r.does === does).length
  // What needs a look comes first.
  const rows = [...tried.rows].sort((a, b) => Number(b.does === 'refused') - Number(a.does === 'refused'))
  return (
    <div>
      <p className="mb-1" role="status">
        {counted(count('added'), 'person', 'people')} to add · {count('known')} here already · {count('refused')} left out
      </p>
      <div className={styles.triedPeople}>
        <table className="grid">
          <thead>
            <tr>
              <th className="number">line</th>
              <th>name</th>
              <th>sign-in</th>
              <th>what happens</th>
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, 200).map((r) => (
              <tr key={r.line}>
                <td className="number soft">{r.line}</td>
                <td>{r.name}</td>
                <td className="soft">{r.signIn}</td>
                <td className={r.does === 'refused' ? 'brick' : r.does === 'known' ? 'soft' : ''}>
                  {DOES[r.does]}
                  {r.why && `: ${r.why}`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </div>
  )
}
