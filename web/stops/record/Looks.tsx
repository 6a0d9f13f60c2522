import { useQuery } from '@tanstack/react-query'
import { differenceInMinutes, parseISO } from 'date-fns'
import { routes } from '#contract'
import { call } from '../../api/client'
import { counted, shownAt } from '../../parts/format'

/** Who looked at the course as which marker. */
export function Looks({ courseId }: { courseId: string }) {
  const { data } = useQuery({ queryKey: ['looks', courseId], queryFn: () => call(routes.looks, { params: { courseId } }) })
  if (!data || data.length === 0) return null
  return (
    <details className="mt-4">
      <summary>{counted(data.length, 'look')} through a marker’s eyes</summary>
      <ul className="people small">
        {data.map((l) => (
          <li key={l.at}>
            <span>
              {l.by} as <b>{l.as}</b>
            </span>
            <span className="soft">
              {shownAt(l.at, 'd MMM, HH:mm')},{' '}
              {l.endedAt === null ? 'not ended' : `${differenceInMinutes(parseISO(l.endedAt), parseISO(l.at)) || 'under 1'} min`}
            </span>
          </li>
        ))}
      </ul>
    </details>
  )
}
