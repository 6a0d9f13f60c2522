import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Form } from 'react-bootstrap'
import { routes } from '#contract'
import { call } from '../api/client'
import { useWrites } from '../saving/writes'
import { StandInList } from '../parts/StandInState'

/** The simulated outside services of a course can be made to fail, to see what happens then. */
export function StandIns({ courseId }: { courseId: string }) {
  const { write } = useWrites()
  const queries = useQueryClient()
  const queryKey = ['installed stand-ins', courseId] as const
  const all = useQuery({ queryKey, queryFn: () => call(routes.installedStandIns, { params: { courseId } }) })
  if (!all.data) return null
  return (
    <section>
      <h2>Stand-ins</h2>
      <p className="soft">They ship with Level Table in place of outside services: nothing leaves this machine.</p>
      {all.data.now.map(({ name, fails }) => {
        const set = (on: boolean) => call(routes.setStandIn, { params: { courseId, name }, body: { fails: on } })
        const turn = (on: boolean) =>
          void write(
            `${name} ${on ? 'fails' : 'works'}`,
            () => set(on).then(() => true),
            () => set(!on),
          ).then(() => queries.invalidateQueries({ queryKey }))
        return (
          <div key={name}>
            <Form.Check id={`fails-${name}`} label={`let the ${name} fail`} checked={fails} onChange={(e) => turn(e.target.checked)} />
            <StandInList list={all.data.list.filter((s) => s.name === name)} />
          </div>
        )
      })}
    </section>
  )
}
