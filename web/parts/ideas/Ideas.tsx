import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState, type ReactNode } from 'react'
import { Button, Form } from 'react-bootstrap'
import { MOST_IDEAS, routes, type Idea, type IdeaStop } from '#contract'
import { call } from '../../api/client'
import { problemOf } from '../../api/problem-of'
import type { Change } from '#core/trial'
import { useCourse, useDecidedCourse, useFigures } from '../../course/course'
import { useKeys } from '../../settings/keys'
import { GradeStrip } from '../GradeStrip'
import { WorkingOut } from '../WorkingOut'
import { counted, fixed } from '../format'
import { ask } from '../../saving/ask'
import { useWrites, WriteProblem, WritesProvider } from '../../saving/writes'
import { IdeaCloseUp } from './IdeaCloseUp'
import { KeepIdea } from './KeepIdea'
import type { IdeaFigures, IdeaLike } from './figures'
import { CloseUp } from '../CloseUp'
import styles from './ideas.module.css'
import { KeyCap } from '../../settings/KeyCap'

const ADOPTED = 'adopted'
const TRIED = 'tried'
const NONE: Idea[] = []

interface Props {
  nav: ReactNode
  stop: IdeaStop
  /** What they are called, one and several. */
  words: { title: string; one: string; how: string }
  /** What is held beside those that are kept: lines of another year, say. */
  beside?: readonly Beside[]
  /** Of the trial only some changes are kept; what else is tried stays as it is beside every one. All are, where nothing is said. */
  own?: { isOwn: (c: Change) => boolean; kept: (changes: readonly Change[]) => Change[] }
  /** Shows how many have each grade by section, in place of the mean. */
  byGrade?: boolean
}

export interface Beside extends IdeaLike {
  name: string
  /** What else is known of it. */
  says?: string | undefined
}

const NOBODY_BESIDE: readonly Beside[] = []
const ALL: NonNullable<Props['own']> = { isOwn: () => true, kept: (changes) => [...changes] }

/** Ways to rescale, or to draw the lines, beside each other: each with who moves and what it comes to; one is picked to be tried, the others stay. */
export function Ideas(props: Props) {
  const { id } = useDecidedCourse()
  return (
    <WritesProvider courseId={id}>
      <SideBySide {...props} />
    </WritesProvider>
  )
}

function SideBySide({ nav, stop, words, beside = NOBODY_BESIDE, own = ALL, byGrade = false }: Props) {
  const { id, trial, setTrial, mayDecide } = useCourse()
  const { write } = useWrites()
  const queries = useQueryClient()
  const kept = useQuery({ queryKey: ['ideas', id], queryFn: () => call(routes.ideas, { params: { courseId: id } }) })
  const ideas = useMemo(() => kept.data?.filter((i) => i.stop === stop) ?? NONE, [kept.data, stop])
  const [wanted, setWanted] = useState<string | null>(null)
  const [keeping, setKeeping] = useState(false)
  const [mine, others] = useMemo(() => [trial.changes.filter(own.isOwn), trial.changes.filter((c) => !own.isOwn(c))], [trial.changes, own])
  const asked = useMemo(
    () => [
      ...(trial.changes.length > 0 ? [{ id: TRIED, changes: trial.changes }] : []),
      ...[...ideas, ...beside].map(({ id, changes }) => ({ id, changes: [...others, ...changes] })),
    ],
    [trial.changes, others, ideas, beside],
  )
  const [against, setAgainst] = useState(ADOPTED)
  const figures = useFigures('ideas', asked, against)
  const rows = figures ? [figures.adopted, ...figures.ideas] : []
  const chosen = rows.find((r) => r.id === wanted) ?? rows[1] ?? rows[0]
  const idea = ideas.find((i) => i.id === chosen?.id)
  const other = beside.find((b) => b.id === chosen?.id)
  const refresh = () => queries.invalidateQueries({ queryKey: ['ideas', id] })
  const tryIt = (i: Pick<Idea, 'name' | 'changes'>) => setTrial([...others, ...i.changes], `try ${i.name}`)
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
    { key: 'ArrowDown', does: `next ${words.one}`, run: () => step(1) },
    { key: 'ArrowUp', does: `${words.one} before`, run: () => step(-1) },
    { key: 't', does: `try the chosen ${words.one}`, run: () => (idea ?? other) && mayDecide && tryIt((idea ?? other)!) },
    { key: 'k', does: `keep the trial as a ${words.one}`, run: () => mayDecide && mine.length > 0 && setKeeping(true) },
  ])
  const unread = problemOf(kept)
  if (unread) return <div className="empty">{unread}</div>
  if (!figures || !kept.data) return <WorkingOut />
  const nameOf = (f: IdeaFigures) =>
    f.id === ADOPTED ? 'as adopted' : f.id === TRIED ? 'what is tried now' : ([...ideas, ...beside].find((i) => i.id === f.id)?.name ?? '')
  const saysOf = (f: IdeaFigures) => beside.find((b) => b.id === f.id)?.says
  const room = ideas.length < MOST_IDEAS
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>{rows.length > 1 ? 'Which of these?' : words.title}</h1>
          {nav}
        </div>
        <WriteProblem />
        <table className={`grid ${styles.ideas}`}>
          <thead>
            <tr>
              <th>{words.one}</th>
              <th>
                <span className="visually-hidden">where the grades would stand</span>
              </th>
              <th className="number">mean</th>
              <th className="number">grades</th>
              <th className="number">overtake</th>
            </tr>
          </thead>
          <tbody>
            {rows.map((f) => (
              <tr key={f.id} className="pick" aria-selected={f === chosen} onClick={() => setWanted(f.id)}>
                <td>
                  <button className="row-name" onClick={() => setWanted(f.id)}>
                    {nameOf(f)}
                  </button>
                  {saysOf(f) && <span className="soft small d-block">{saysOf(f)}</span>}
                  {f.problem && <span className="brick small d-block">{f.problem}</span>}
                </td>
                <td className={styles.drawn}>
                  <GradeStrip people={f.people} before={null} boundaries={f.boundaries} counts={f.counts} />
                </td>
                <td className="number fw-semibold">{fixed(f.mean)}</td>
                <td className="number text-nowrap">
                  {f.id === against ? (
                    <span className="soft">{f.id === ADOPTED ? 'in force' : 'held against'}</span>
                  ) : (
                    <>
                      <b>{f.change.movers.length}</b>{' '}
                      <span className="soft">
                        ↑{f.change.up} ↓{f.change.down}
                      </span>
                    </>
                  )}
                </td>
                <td className="number">{f.id === against ? '' : f.change.reversed}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="soft small mt-2 mb-0">Counted: {figures.adopted.who}.</p>
        {rows.length > 2 && (
          <label className="d-flex gap-2 align-items-center mt-2 small soft">
            held against
            <Form.Select size="sm" className="w-auto" value={against} onChange={(e) => setAgainst(e.target.value)}>
              {rows.map((r) => (
                <option key={r.id} value={r.id}>
                  {nameOf(r)}
                </option>
              ))}
            </Form.Select>
          </label>
        )}
        <div className="d-flex gap-3 align-items-center mt-3">
          {mayDecide && (
            <Button size="sm" variant="outline-primary" disabled={mine.length === 0 || !room} onClick={() => setKeeping(true)}>
              Keep what is tried <KeyCap cap="k" />
            </Button>
          )}
          <span className="small soft">
            {!room
              ? `${MOST_IDEAS} are kept: drop one, and there is room for another.`
              : mine.length === 0
                ? words.how
                : `${counted(MOST_IDEAS - ideas.length, words.one)} more can be kept.`}
          </span>
        </div>
      </main>
      <CloseUp>
        {chosen && (
          <IdeaCloseUp
            name={nameOf(chosen)}
            figures={chosen}
            against={rows.find((r) => r.id === against) ?? figures.adopted}
            byGrade={byGrade}
            idea={idea ?? null}
            onTry={idea || other ? () => tryIt((idea ?? other)!) : null}
            onDrop={() => idea && void drop(idea)}
            onNamed={() => void refresh()}
          />
        )}
      </CloseUp>
      {keeping && (
        <KeepIdea
          stop={stop}
          changes={own.kept(mine)}
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
