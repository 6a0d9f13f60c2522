import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState, type ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import { MOST_IDEAS, routes, type Idea } from '#contract'
import { call } from '../../../api/client'
import { problemOf } from '../../../api/problem-of'
import { useCourse, useFigures } from '../../../course/course'
import { useKeys } from '../../../settings/keys'
import { GradeStrip } from '../../../parts/GradeStrip'
import { WorkingOut } from '../../../parts/WorkingOut'
import { counted, fixed } from '../../../parts/format'
import { ask } from '../../../saving/ask'
import { useWrites, WriteProblem, WritesProvider } from '../../../saving/writes'
import { IdeaCloseUp } from './IdeaCloseUp'
import { KeepIdea } from './KeepIdea'
import type { IdeaFigures } from './figures'
import styles from './ideas.module.css'

const ADOPTED = 'adopted'
const TRIED = 'tried'
const NONE: Idea[] = []

/** Ways to rescale beside each other: each with who moves and what it comes to; one is picked to be tried, the others stay. */
export function Ideas({ nav }: { nav: ReactNode }) {
  const { id } = useCourse()
  return (
    <WritesProvider courseId={id}>
      <SideBySide nav={nav} />
    </WritesProvider>
  )
}

function SideBySide({ nav }: { nav: ReactNode }) {
  const { id, trial, setTrial, mayDecide } = useCourse()
  const { write } = useWrites()
  const queries = useQueryClient()
  const kept = useQuery({ queryKey: ['ideas', id], queryFn: () => call(routes.ideas, { params: { courseId: id } }) })
  const ideas = useMemo(() => kept.data?.filter((i) => i.stop === 'rescale') ?? NONE, [kept.data])
  const [wanted, setWanted] = useState<string | null>(null)
  const [keeping, setKeeping] = useState(false)
  const asked = useMemo(
    () => [
      ...(trial.changes.length > 0 ? [{ id: TRIED, changes: trial.changes }] : []),
      ...ideas.map(({ id, changes }) => ({ id, changes })),
    ],
    [trial.changes, ideas],
  )
  const figures = useFigures('ideas', asked)
  const rows = figures ? [figures.adopted, ...figures.ideas] : []
  const chosen = rows.find((r) => r.id === wanted) ?? rows[1] ?? rows[0]
  const idea = ideas.find((i) => i.id === chosen?.id)
  const refresh = () => queries.invalidateQueries({ queryKey: ['ideas', id] })
  const tryIt = (i: Idea) => setTrial(i.changes, `try ${i.name}`)
  const drop = async (i: Idea) => {
    const again = ask(routes.keepIdea, { params: { courseId: id }, body: { stop: i.stop, name: i.name, changes: i.changes } })
    await write(`drop ${i.name}`, ask(routes.dropIdea, { params: { courseId: id, ideaId: i.id } }), () => again)
    await refresh()
  }
  const step = (by: number) => {
    const next = chosen && rows[rows.indexOf(chosen) + by]
    if (next) setWanted(next.id)
  }
  useKeys([
    { key: 'ArrowDown', does: 'next idea', run: () => step(1) },
    { key: 'ArrowUp', does: 'idea before', run: () => step(-1) },
    { key: 't', does: 'try the chosen idea', run: () => idea && mayDecide && tryIt(idea) },
    { key: 'k', does: 'keep the trial as an idea', run: () => mayDecide && trial.changes.length > 0 && setKeeping(true) },
  ])
  const unread = problemOf(kept)
  if (unread) return <div className="empty">{unread}</div>
  if (!figures || !kept.data) return <WorkingOut />
  const nameOf = (f: IdeaFigures) =>
    f.id === ADOPTED ? 'as adopted' : f.id === TRIED ? 'what is tried now' : (ideas.find((i) => i.id === f.id)?.name ?? '')
  const room = ideas.length < MOST_IDEAS
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>{rows.length > 1 ? 'Which of these?' : 'Ideas side by side'}</h1>
          {nav}
        </div>
        <WriteProblem />
        <table className={`grid ${styles.ideas}`}>
          <thead>
            <tr>
              <th>idea</th>
              <th>
                <span className="visually-hidden">where the grades would stand</span>
              </th>
              <th className="num">mean</th>
              <th className="num">grades</th>
              <th className="num">overtake</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((f) => (
              <tr key={f.id} className="pick" aria-selected={f === chosen} onClick={() => setWanted(f.id)}>
                <td>
                  <button className="row-name" onClick={() => setWanted(f.id)}>
                    {nameOf(f)}
                  </button>
                  {f.problem && <span className="brick small d-block">{f.problem}</span>}
                </td>
                <td className={styles.drawn}>
                  <GradeStrip people={f.people} before={null} boundaries={f.boundaries} counts={f.counts} />
                </td>
                <td className="num fw-semibold">{fixed(f.mean)}</td>
                <td className="num text-nowrap">
                  {f.id === ADOPTED ? (
                    <span className="soft">in force</span>
                  ) : (
                    <>
                      <b>{f.change.movers.length}</b>{' '}
                      <span className="soft">
                        ↑{f.change.up} ↓{f.change.down}
                      </span>
                    </>
                  )}
                </td>
                <td className="num">{f.id === ADOPTED ? '' : f.change.reversed}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className="d-flex gap-3 align-items-center mt-3">
          {mayDecide && (
            <Button size="sm" variant="outline-primary" disabled={trial.changes.length === 0 || !room} onClick={() => setKeeping(true)}>
              Keep what is tried <kbd>K</kbd>
            </Button>
          )}
          <span className="small soft">
            {!room
              ? `${MOST_IDEAS} are kept: drop one, and there is room for another.`
              : trial.changes.length === 0
                ? 'Try something at marks, common weights or the total, and keep it here beside others.'
                : `${counted(MOST_IDEAS - ideas.length, 'idea')} more can be kept.`}
          </span>
        </div>
      </main>
      <aside className="close-up" aria-label="Close-up">
        {chosen && (
          <IdeaCloseUp
            name={nameOf(chosen)}
            figures={chosen}
            adopted={figures.adopted}
            idea={idea ?? null}
            onTry={() => idea && tryIt(idea)}
            onDrop={() => idea && void drop(idea)}
            onNamed={() => void refresh()}
          />
        )}
      </aside>
      {keeping && (
        <KeepIdea
          stop="rescale"
          onClose={(keptId) => {
            setKeeping(false)
            if (keptId) setWanted(keptId)
            void refresh()
          }}
        />
      )}
    </div>
  )
}
