import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Form } from 'react-bootstrap'
import { routes, type StandIn } from '#contract'
import { call } from '../api/client'

/** A simulated outside service can be made to fail, to see what happens then. */
export function StandInSwitch({ courseId, name }: { courseId: string; name: StandIn }) {
  const queries = useQueryClient()
  const all = useQuery({ queryKey: ['stand-ins', courseId], queryFn: () => call(routes.standIns, { params: { courseId } }) })
  const fails = all.data?.find((s) => s.name === name)?.fails
  if (fails === undefined) return null
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
    </section>
  )
}
