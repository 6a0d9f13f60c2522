import { useQuery } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { Button, Form } from 'react-bootstrap'
import { routes, type CoursePerson, type Plan } from '#contract'
import { call, messageOf } from '../../../api/client'
import { useSignedIn } from '../../../session/ahead'
import { useTrial } from '../../../course/trial'
import { useWrites, WriteProblem, WritesProvider } from '../../../saving/writes'
import { counted } from '../../../parts/format'
import { AddToCourse, type CourseRole } from './AddToCourse'
import { Leaving } from './Leaving'
import { StudentsComeIn } from './StudentsComeIn'
import { CloseUp } from '../../../parts/CloseUp'
import styles from './people.module.css'

export const ROLE_WORDS: Record<CourseRole, string> = {
  lead: 'leads: decides everything here',
  marker: 'marks what is shared out, and their own sections',
  external: 'reads all, changes nothing',
}

/** Who has which part in the course, and which students can see their own work. */
export function PeopleHere({ plan, nav }: { plan: Plan; nav: ReactNode }) {
  return (
    <WritesProvider courseId={plan.head.id}>
      <PeopleView plan={plan} nav={nav} />
    </WritesProvider>
  )
}

function PeopleView({ plan, nav }: { plan: Plan; nav: ReactNode }) {
  const { courseId, mayDecide } = useTrial()
  const { write } = useWrites()
  const me = useSignedIn()
  const people = useQuery({
    queryKey: ['course people', courseId],
    queryFn: () => call(routes.coursePeople, { params: { courseId } }),
  })
  const [asked, setAsked] = useState<string | null>(null)
  if (people.error) return <div className="empty">{messageOf(people.error)}</div>
  if (!people.data) return <div className="empty">Fetching who has a part here…</div>
  const set = (personId: string, role: CourseRole) => call(routes.setRole, { params: { courseId, personId }, body: { role } })
  const take = (personId: string) => call(routes.takeRole, { params: { courseId, personId } })
  const change = (p: CoursePerson, role: CourseRole) =>
    void write(
      `${p.name}: ${role}`,
      () => set(p.id, role),
      () => set(p.id, p.role),
    )
  const leave = (p: CoursePerson) => {
    setAsked(null)
    void write(
      `${p.name} has no part here`,
      async () => {
        const handed = p.toRead > 0 ? await call(routes.handOver, { params: { courseId, personId: p.id } }) : []
        await take(p.id)
        return handed
      },
      async (handed) => {
        await set(p.id, p.role)
        for (const of of handed) await call(routes.takeBackSharing, { params: { courseId, ...of } })
      },
    )
  }
  const add = (found: { id: string; name: string }[], role: CourseRole) =>
    write(
      found.length === 1 ? `${found[0]!.name}: ${role}` : `${counted(found.length, 'person', 'people')}: ${role}`,
      async () => {
        for (const p of found) await set(p.id, role)
        return found
      },
      async () => {
        for (const p of found) await take(p.id)
      },
    )
  const row = (p: CoursePerson) => (
    <tr key={p.id}>
      <td>
        <b>{p.name}</b> {p.id === me.id && <span className="soft">· you</span>}
        {p.state !== 'in' && <span className="soft small"> · {p.state === 'invited' ? 'invited' : 'not active'}</span>}
      </td>
      <td>
        <Form.Select
          size="sm"
          className="w-auto"
          aria-label={`Part of ${p.name}`}
          disabled={!mayDecide}
          value={p.role}
          onChange={(e) => change(p, e.target.value as CourseRole)}
        >
          {Object.keys(ROLE_WORDS).map((r) => (
            <option key={r}>{r}</option>
          ))}
        </Form.Select>
      </td>
      <td className="soft">{p.teaches.join(', ')}</td>
      <td className="number">{p.toRead > 0 ? p.toRead : <span className="soft">none</span>}</td>
      <td className="text-end text-nowrap">
        {mayDecide && (
          <Button size="sm" variant="link" aria-label={`Take the part of ${p.name} away`} onClick={() => setAsked(p.id)}>
            Take away
          </Button>
        )}
      </td>
    </tr>
  )
  const leaving = people.data.find((p) => p.id === asked)
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>Who has a part here</h1>
          {nav}
        </div>
        <WriteProblem />
        <table className="grid" aria-label={counted(people.data.length, 'person', 'people')}>
          <thead>
            <tr>
              <th>name</th>
              <th>part</th>
              <th>teaches</th>
              <th className="number">still to read</th>
              <th />
            </tr>
          </thead>
          <tbody>{people.data.map(row)}</tbody>
        </table>
        {leaving && <Leaving person={leaving} courseId={courseId} onTake={() => leave(leaving)} onKeep={() => setAsked(null)} />}
        <dl className={`fields mt-3 ${styles.roleWords}`}>
          {Object.entries(ROLE_WORDS).map(([role, words]) => (
            <div key={role} className="d-contents">
              <dt>{role}</dt>
              <dd>{words}</dd>
            </div>
          ))}
        </dl>
        <p className="soft small">Who teaches a section is set with the section, at roll.</p>
      </main>
      <CloseUp>
        {mayDecide ? (
          <AddToCourse courseId={courseId} add={add} />
        ) : (
          <p className="soft">Whoever leads the course gives people their parts, as long as no issue is confirmed.</p>
        )}
        {mayDecide && <StudentsComeIn plan={plan} />}
      </CloseUp>
    </div>
  )
}
