import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import { useParams } from 'react-router'
import { routes, type ToJudge } from '#contract'
import { call, messageOf } from '../../../api/client'
import { problemOf } from '../../../api/problem-of'
import { useSaved } from '../../../saving/saved'
import { useKeys } from '../../../settings/keys'
import { KeyCap } from '../../../settings/KeyCap'
import { CloseUp } from '../../../parts/CloseUp'

/** Could they do what the grade asks for? One student after the other, by number: no percent, no mark, and nobody else's words. */
export default function Judging() {
  const { courseId = '' } = useParams()
  const lists = useQuery({ queryKey: ['to judge', courseId], queryFn: () => call(routes.toJudge, { params: { courseId } }) })
  const [chosen, setChosen] = useState<string | null>(null)
  const problem = problemOf(lists)
  if (problem) return <div className="empty">{problem}</div>
  if (!lists.data) return <div className="empty">Fetching what you are asked to judge…</div>
  if (lists.data.length === 0)
    return <div className="empty">Nothing is asked of you: a list that you are to judge stands here until it is closed.</div>
  const list = lists.data.find((l) => l.id === chosen) ?? lists.data[0]!
  return (
    <div className="work">
      <OneList key={list.id} courseId={courseId} list={list}>
        {lists.data.length > 1 && (
          <section>
            <h2>Your lists</h2>
            <ul className="people">
              {lists.data.map((l) => (
                <li key={l.id} aria-current={l === list ? 'true' : undefined}>
                  <button className={`row-name ${l === list ? 'fw-semibold' : ''}`} onClick={() => setChosen(l.id)}>
                    {l.grade}, {leftOf(l)}
                  </button>
                </li>
              ))}
            </ul>
          </section>
        )}
      </OneList>
    </div>
  )
}

function leftOf({ students }: ToJudge): string {
  const left = students.filter((s) => s.able === null).length
  return left === 0 ? 'all judged' : `${left} of ${students.length} left`
}

function OneList({ courseId, list, children }: { courseId: string; list: ToJudge; children: ReactNode }) {
  const { saving } = useSaved()
  const queries = useQueryClient()
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      list.students.findIndex((s) => s.able === null),
    ),
  )
  const [problem, setProblem] = useState<string | null>(null)
  const one = list.students[at]!
  const left = list.students.filter((s) => s.able === null).length
  const works = useQuery({
    queryKey: ['to judge', courseId, list.id, one.number],
    queryFn: () => call(routes.workToJudge, { params: { courseId, listId: list.id, number: one.number } }),
    staleTime: Infinity,
  })
  const go = (to: number) => setAt(Math.min(list.students.length - 1, Math.max(0, to)))
  const say = async (able: boolean | null) => {
    setProblem(null)
    try {
      await saving(call(routes.judgeLine, { params: { courseId, listId: list.id, number: one.number }, body: { able } }))
      queries.setQueryData<ToJudge[]>(['to judge', courseId], (all) =>
        all?.map((l) => (l.id === list.id ? { ...l, students: l.students.map((s) => (s === one ? { ...s, able } : s)) } : l)),
      )
      if (able !== null) go(at + 1)
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  useKeys([
    { key: 'y', does: 'they could', run: () => void say(true) },
    { key: 'n', does: 'they could not', run: () => void say(false) },
    { key: 'ArrowDown', does: 'next student', run: () => go(at + 1) },
    { key: 'ArrowUp', does: 'student before', run: () => go(at - 1) },
  ])
  return (
    <>
      <main className="table-side">
        <div className="stop-head">
          <h1>
            Student {one.number}: could they do what {list.grade} asks for?
          </h1>
        </div>
        <div className="buttons mb-3">
          <Button
            variant={one.able === true ? 'primary' : 'outline-primary'}
            aria-pressed={one.able === true}
            onClick={() => void say(true)}
          >
            They could <KeyCap cap="y" />
          </Button>
          <Button
            variant={one.able === false ? 'primary' : 'outline-primary'}
            aria-pressed={one.able === false}
            onClick={() => void say(false)}
          >
            They could not <KeyCap cap="n" />
          </Button>
          {one.able !== null && (
            <Button variant="link" onClick={() => void say(null)}>
              Take it back
            </Button>
          )}
        </div>
        {problem && (
          <p className="note bad" role="alert">
            {problem}
          </p>
        )}
        {works.data?.length === 0 && (
          <p className="soft">
            There is no work of theirs here that you may read now. Work on paper, or that you have yet to mark, is not shown: ask the lead.
          </p>
        )}
        {works.data?.map((w) => (
          <section key={w.assessment}>
            <h2>{w.assessment}</h2>
            <article className="script-text" dir="auto">
              {w.text}
            </article>
          </section>
        ))}
      </main>
      <CloseUp>
        <section>
          <h2 role="status">{left === 0 ? 'All are judged' : `${left} of ${list.students.length} left`}</h2>
          <p className="soft small">
            You see no percent and no mark, and nobody sees what you said before the list is closed; then not by whom.
          </p>
          <ul className="people">
            {list.students.map((s, i) => (
              <li key={s.number} aria-current={i === at ? 'true' : undefined}>
                <button className={`row-name ${i === at ? 'fw-semibold' : ''}`} onClick={() => go(i)}>
                  Student {s.number}
                </button>
                <span className="soft">{s.able === null ? '' : s.able ? 'could' : 'could not'}</span>
              </li>
            ))}
          </ul>
        </section>
        {children}
      </CloseUp>
    </>
  )
}
