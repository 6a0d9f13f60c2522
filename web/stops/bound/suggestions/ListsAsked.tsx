import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { Link } from 'react-router'
import type { Boundary, StudentResult } from '#core/grades'
import { routes, type LineList } from '#contract'
import { addressOf, call, messageOf } from '../../../api/client'
import { useDecidedCourse } from '../../../course/course'
import { useSaved } from '../../../saving/saved'
import { NumberField } from '../../../parts/NumberField'
import { counted, shownAt } from '../../../parts/format'
import { useAskedToJudge } from '../judging/useAskedToJudge'
import styles from '../bound.module.css'

const MOST = 300

interface Props {
  boundaries: readonly Boundary[]
  students: readonly StudentResult[]
  lists: readonly LineList[]
  /** The one whose judgements are shown. */
  chosen: LineList | undefined
  onChoose: (id: string) => void
}

export const lineListsQuery = (courseId: string) => ({
  queryKey: ['line lists', courseId],
  queryFn: () => call(routes.lineLists, { params: { courseId } }),
})

/** Lists of students near a line whom people judge, how far each is, and a way to begin another. */
export function ListsAsked({ boundaries, students, lists, chosen, onChoose }: Props) {
  const { id, mayDecide } = useDecidedCourse()
  const queries = useQueryClient()
  const { saving } = useSaved()
  const asked = useAskedToJudge(id)
  const people = useQuery({
    queryKey: ['course people', id],
    queryFn: () => call(routes.coursePeople, { params: { courseId: id } }),
    enabled: mayDecide,
  })
  const [grade, setGrade] = useState(boundaries[1]?.grade ?? '')
  const [within, setWithin] = useState(3)
  const [judges, setJudges] = useState<ReadonlySet<string>>(new Set())
  const [problem, setProblem] = useState<string | null>(null)
  /** The list that is asked about before it is closed. */
  const [closing, setClosing] = useState<string | null>(null)
  const from = boundaries.find((b) => b.grade === grade)?.from
  const near = useMemo(
    () => students.filter((s) => s.rounded !== null && from !== undefined && Math.abs(s.rounded - from) <= within).map((s) => s.studentId),
    [students, from, within],
  )
  const send = async (what: Promise<unknown>) => {
    setProblem(null)
    try {
      await saving(what)
      await Promise.all(
        [
          ['line lists', id],
          ['to judge', id],
        ].map((queryKey) => queries.invalidateQueries({ queryKey })),
      )
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  return (
    <>
      {asked > 0 && (
        <p className="note">
          You are asked to judge {counted(asked, 'student')}. <Link to={`/courses/${id}/judging`}>Judge them</Link>
        </p>
      )}
      <ul className="people">
        {lists.map((l) => (
          <li key={l.id} className="d-block" aria-current={l === chosen ? 'true' : undefined}>
            <button className={`row-name ${l === chosen ? 'fw-semibold' : ''}`} onClick={() => onChoose(l.id)}>
              {l.grade}: {l.students} students, {shownAt(l.at, 'd MMM')}
            </button>
            <span className="soft small d-block">
              {l.judges.map((j) => `${j.name} ${j.judged} of ${l.students}`).join(', ')}
              {l.closedAt !== null && ' · closed'}
            </span>
            {l.closedAt === null && mayDecide && closing !== l.id && (
              <Button size="sm" variant="link" className="p-0" onClick={() => setClosing(l.id)}>
                Close it…
              </Button>
            )}
            {l.closedAt === null && mayDecide && (
              <span className="soft small d-block">
                Work on paper has to bear its numbers:{' '}
                <a href={addressOf(routes.lineListKey, { courseId: id, listId: l.id })} download>
                  export the key
                </a>
                .
              </span>
            )}
            {l.closedAt === null && closing === l.id && (
              <span className="small d-block" role="group" aria-label="Close this list?">
                {missingFrom(l)} Once it is closed nothing more can be judged, and what was said is shown.{' '}
                <Button
                  size="sm"
                  autoFocus
                  onClick={() => void send(call(routes.closeLineList, { params: { courseId: id, listId: l.id } }))}
                >
                  Close it
                </Button>{' '}
                <Button size="sm" variant="link" onClick={() => setClosing(null)}>
                  Not yet
                </Button>
              </span>
            )}
          </li>
        ))}
      </ul>
      {mayDecide && (
        <div className="d-grid gap-2 mt-3">
          <h3 className="fs-6 mb-0">Have another list judged</h3>
          <span className="d-flex align-items-center gap-2">
            within
            <span style={{ width: 52 }}>
              <NumberField
                label="Judged within so many percent"
                value={within}
                min={0.5}
                max={20}
                step={0.5}
                onCommit={(v) => v !== null && setWithin(v)}
              />
            </span>
            percent of
            <Form.Select
              size="sm"
              className="w-auto"
              aria-label="Judged at the line of"
              value={grade}
              onChange={(e) => setGrade(e.target.value)}
            >
              {boundaries.slice(0, -1).map((b) => (
                <option key={b.grade}>{b.grade}</option>
              ))}
            </Form.Select>
          </span>
          <div role="group" aria-label="Who judges" className={styles.judges}>
            {people.data?.map((p) => (
              <Form.Check
                key={p.id}
                id={`judge-${p.id}`}
                label={p.name}
                checked={judges.has(p.id)}
                onChange={(e) => setJudges((j) => new Set(e.target.checked ? [...j, p.id] : [...j].filter((x) => x !== p.id)))}
              />
            ))}
          </div>
          <span>
            <Button
              size="sm"
              variant="outline-primary"
              disabled={judges.size === 0 || near.length < 2 || near.length > MOST}
              onClick={() =>
                void send(call(routes.makeLineList, { params: { courseId: id }, body: { grade, studentIds: near, judgeIds: [...judges] } }))
              }
            >
              Ask them about {counted(near.length, 'student')}
            </Button>
          </span>
          {near.length > MOST && <span className="small ochre">{MOST} at most: choose a narrower stretch.</span>}
        </div>
      )}
      {problem && (
        <p className="note bad" role="alert">
          {problem}
        </p>
      )}
    </>
  )
}

/** How much of a list is not judged yet, in a sentence. */
function missingFrom({ judges, students }: LineList): string {
  const missing = judges.reduce((n, j) => n + students - j.judged, 0)
  return missing === 0 ? 'Everything is judged.' : `${counted(missing, 'judgement')} ${missing === 1 ? 'is' : 'are'} missing.`
}
