import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useParams } from 'react-router'
import { sightOf } from '#core/roles'
import { routes } from '#contract'
import { addressOf, call } from '../../api/client'
import { problemOf } from '../../api/problem-of'
import { coursesQuery } from '../../session/ahead'
import { useKeys } from '../../settings/keys'
import { StandInState } from '../../parts/StandInState'
import { shownAt } from '../../parts/format'
import { CloseUp } from '../../parts/CloseUp'

/** Messages of the course: all of them for those who oversee it, one's own for a marker. */
export default function PostPage() {
  const { courseId = '' } = useParams()
  const role = useQuery(coursesQuery).data?.find((c) => c.id === courseId)?.role
  const letters = useQuery({ queryKey: ['letters', courseId], queryFn: () => call(routes.letters, { params: { courseId } }) })
  const [chosenId, setChosen] = useState<string | null>(null)
  const list = letters.data ?? []
  const at = Math.max(
    0,
    list.findIndex((l) => l.id === chosenId),
  )
  const chosen = list[at]
  useKeys([
    { key: 'ArrowDown', does: 'next letter', run: () => setChosen(list[Math.min(list.length - 1, at + 1)]?.id ?? null) },
    { key: 'ArrowUp', does: 'letter before', run: () => setChosen(list[Math.max(0, at - 1)]?.id ?? null) },
  ])
  const problem = problemOf(letters)
  if (problem) return <div className="empty">{problem}</div>
  if (!letters.data) return <div className="empty">Fetching the post…</div>
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>The post</h1>
        </div>
        {list.length === 0 ? (
          <div className="empty">No letter yet. Reminders that are sent where the reading is shared out are kept here.</div>
        ) : (
          <table className="grid">
            <thead>
              <tr>
                <th>when</th>
                <th>to</th>
                <th>about</th>
                <th>from</th>
              </tr>
            </thead>
            <tbody>
              {list.map((l) => (
                <tr key={l.id} className="pick" aria-selected={l === chosen} onClick={() => setChosen(l.id)}>
                  <td className="soft text-nowrap">{shownAt(l.at, 'd MMM, HH:mm')}</td>
                  <td>{l.to}</td>
                  <td>
                    <button className="row-name border-0 bg-transparent p-0 text-start text-reset" onClick={() => setChosen(l.id)}>
                      {l.subject}
                    </button>
                  </td>
                  <td className="soft">{l.by}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
      <CloseUp>
        {chosen && (
          <section>
            <h2>{chosen.subject}</h2>
            <p style={{ whiteSpace: 'pre-line' }} dir="auto">
              {chosen.body}
            </p>
            <p>
              <a href={addressOf(routes.letterFile, { courseId, letterId: chosen.id })} download>
                Take it out as .eml
              </a>
            </p>
          </section>
        )}
        {sightOf(role).decides && <StandInState courseId={courseId} name="post" />}
      </CloseUp>
    </div>
  )
}
