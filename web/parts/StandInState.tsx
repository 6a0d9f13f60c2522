import { useQuery } from '@tanstack/react-query'
import { routes, type StandIn } from '#contract'
import { call } from '../api/client'
import { shownAt } from './format'

/** Says that an outside service is simulated, and who let it fail on purpose. */
export function StandInState({ courseId, name }: { courseId: string; name: StandIn }) {
  const all = useQuery({ queryKey: ['stand-ins', courseId], queryFn: () => call(routes.standIns, { params: { courseId } }) })
  const now = all.data?.now.find((s) => s.name === name)
  if (!now) return null
  return (
    <section className="soft small">
      <p className="mb-1">
        The {name} is a stand-in that ships with Level Table: nothing leaves this machine.
        {now.fails && ' It is made to fail, by whoever administers the installation, to show what happens then.'}
      </p>
      <StandInList list={all.data!.list.filter((s) => s.name === name)} />
    </section>
  )
}

/** Who let a stand-in fail or work again, the latest first. */
export function StandInList({ list }: { list: readonly { fails: boolean; by: string; at: string }[] }) {
  if (list.length === 0) return null
  return (
    <ul className="people mb-0">
      {list.slice(0, 5).map((s) => (
        <li key={s.at}>
          <span>
            {s.by} {s.fails ? 'let it fail' : 'let it work again'}
          </span>
          <span>{shownAt(s.at, 'd MMM, HH:mm')}</span>
        </li>
      ))}
    </ul>
  )
}
