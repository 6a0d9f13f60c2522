import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { useParams } from 'react-router'
import { rubricMaximum } from '#core'
import { routes, type Library } from '#contract'
import { call, messageOf } from '../../api/client'
import { useKeys } from '../../frame/keys'
import { Ruler } from '../../parts/Ruler'
import { counted, plain } from '../../parts/format'
import { ScaleAxis } from './ScaleAxis'
import './agree.css'

type Standard =
  | { kind: 'rubric'; of: Library['rubrics'][number] }
  | { kind: 'mark scheme'; of: Library['schemes'][number] }
  | { kind: 'scale'; of: Library['scales'][number] }

/** The shared standard: rubrics as rulers, scales on one axis, and who uses them. */
export default function Agree() {
  const { courseId = '' } = useParams()
  const library = useQuery({
    queryKey: ['library', courseId],
    queryFn: () => call(routes.library, { params: { courseId } }),
    staleTime: Infinity,
  })
  const standards = useMemo((): Standard[] => {
    const { rubrics = [], schemes = [], scales = [] } = library.data ?? {}
    return [
      ...rubrics.map((of) => ({ kind: 'rubric' as const, of })),
      ...scales.map((of) => ({ kind: 'scale' as const, of })),
      ...schemes.map((of) => ({ kind: 'mark scheme' as const, of })),
    ]
  }, [library.data])
  const [chosenId, setChosen] = useState<string | null>(null)
  const at = Math.max(
    0,
    standards.findIndex((s) => s.of.id === chosenId),
  )
  const chosen = standards[at]
  const step = (by: number) => setChosen(standards[Math.max(0, Math.min(standards.length - 1, at + by))]?.of.id ?? null)
  useKeys([
    { key: 'ArrowDown', does: 'next in the library', run: () => step(1) },
    { key: 'ArrowUp', does: 'one before', run: () => step(-1) },
  ])
  if (library.error) return <div className="empty">{messageOf(library.error)}</div>
  if (!library.data) return <div className="empty">Fetching the library…</div>
  if (!chosen)
    return <div className="empty">The library is empty. Rubrics, mark schemes and scales that the department shares will stand here.</div>
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>{chosen.of.title}</h1>
          <span className="soft small">
            {chosen.kind}, version {chosen.of.version}
            {chosen.kind === 'rubric' && `, ${plain(rubricMaximum(chosen.of))} points`}
          </span>
        </div>
        {chosen.kind === 'rubric' && <RubricRulers rubric={chosen.of} />}
        {chosen.kind === 'mark scheme' && <SchemeRulers scheme={chosen.of} />}
        {chosen.kind === 'scale' && <ScaleAxis title={chosen.of.title} labels={chosen.of.labels} />}
      </main>
      <aside className="close-up" aria-label="Close-up">
        <section>
          <h2>The department’s library</h2>
          <ul className="people library">
            {standards.map((s) => (
              <li key={s.of.id}>
                <button aria-pressed={s === chosen} onClick={() => setChosen(s.of.id)}>
                  {s.of.title}
                </button>
                <span className="soft small">
                  {s.kind} · {counted(s.of.uses.length, 'use')}
                </span>
              </li>
            ))}
          </ul>
        </section>
        <section>
          <h2>Who uses it</h2>
          {chosen.of.uses.length === 0 ? (
            <p className="soft">Nobody yet.</p>
          ) : (
            <ul className="people">
              {chosen.of.uses.map((u) => (
                <li key={u.course + u.assessment}>
                  <span className="fw-semibold">{u.assessment}</span>
                  <span className="soft small">{u.course}</span>
                </li>
              ))}
            </ul>
          )}
          <p className="soft small mt-2">Owned by {chosen.of.owner}. What stands in use here is the same for everyone who marks with it.</p>
        </section>
        {chosen.kind === 'rubric' && (
          <section>
            <h2>How it becomes a mark</h2>
            <p className="small">
              The points of the chosen levels are added, penalties are taken off, and the total of {plain(rubricMaximum(chosen.of))} is
              scaled to what the assessment is marked out of: out of 100, {plain(rubricMaximum(chosen.of) / 2)} points are 50. A criterion
              not yet judged leaves the mark open.
            </p>
          </section>
        )}
      </aside>
    </div>
  )
}

function RubricRulers({ rubric }: { rubric: Library['rubrics'][number] }) {
  const longest = Math.max(...rubric.criteria.flatMap((c) => c.levels.map((l) => l.to ?? l.points)))
  return (
    <div className="rulers">
      {rubric.criteria.map((c) => {
        const top = Math.max(...c.levels.map((l) => l.to ?? l.points))
        return (
          <section key={c.id}>
            <h3>
              {c.title}{' '}
              <span className="soft small fw-normal">{c.penalty ? 'penalty' : c.ranges ? 'any half point inside a level' : ''}</span>
              <span className="num soft fw-normal float-end">{c.penalty ? `up to ${plain(top)} off` : `of ${plain(top)}`}</span>
            </h3>
            <Ruler
              title={c.title}
              longest={longest}
              sign={c.penalty ? -1 : 1}
              stops={c.levels.map((l) => ({ at: l.points, to: c.ranges ? l.to : undefined, words: l.words }))}
            />
          </section>
        )
      })}
    </div>
  )
}

function SchemeRulers({ scheme }: { scheme: Library['schemes'][number] }) {
  const longest = Math.max(...scheme.criteria.map((c) => c.max))
  return (
    <div className="rulers">
      {scheme.criteria.map((c) => (
        <section key={c.id}>
          <h3>
            {c.title} <span className="soft small fw-normal">free points</span>
            <span className="num soft fw-normal float-end">of {plain(c.max)}</span>
          </h3>
          <Ruler
            title={c.title}
            longest={longest}
            stops={[
              { at: 0, to: c.max, words: c.words },
              { at: c.max, words: '' },
            ]}
          />
        </section>
      ))}
    </div>
  )
}
