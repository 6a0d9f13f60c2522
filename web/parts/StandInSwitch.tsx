import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Form } from 'react-bootstrap'
import { routes, type StandIn } from '#contract'
import { call } from '../api/client'
import { shownAt } from './format'

/** A simulated outside service can be made to fail, to see what happens then. */
export function StandInSwitch({ courseId, name }: { courseId: string; name: StandIn }) {
  const queries = useQueryClient()
  const all = useQuery({ queryKey: ['stand-ins', courseId], queryFn: () => call(routes.standIns, { params: { courseId } }) })
  const fails = all.data?.now.find((s) => s.name === name)?.fails
  if (fails === undefined) return null
  const done = all.data!.list.filter((s) => s.name === name)
  const set = async (on: boolean) => {
    await call(routes.setStandIn, { params: { courseId, name }, body: { fails: on } })
    await queries.invalidateQueries({ queryKey: ['stand-ins', courseId] })
    await queries.invalidateQueries({ queryKey: ['deliveries', courseId] })
  }
  return (
    <section className="soft small">
      <p className="mb-1">The {name} is a stand-in that ships with Level Table: nothing leaves this machine.</p>
      <Form.Check
        id={`fails-${name}`}
        label="let it fail, to see what happens then"
        checked={fails}
        onChange={(e) => void set(e.target.checked)}
      />
      {done.length > 0 && (
        <ul className="people mb-0">
          {done.slice(0, 5).map((s) => (
            <li key={s.at}>
              <span>
                {s.by} {s.fails ? 'let it fail' : 'let it work again'}
              </span>
              <span>{shownAt(s.at, 'd MMM, HH:mm')}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
