import type { ReactNode } from 'react'
import type { Question } from '#contract'
import { problemOf } from '../../api/problem-of'
import { useKeys } from '../../settings/keys'
import { WriteProblem } from '../../saving/writes'
import { counted, shownAt } from '../format'
import { AnswerQuestion } from './AnswerQuestion'
import { useCalled, useQuestions } from './useQuestions'
import { CloseUp } from '../CloseUp'
import { useChosen } from '../useChosen'

interface Props {
  courseId: string
  /** Whether one may answer here. */
  answers: boolean
  nav: ReactNode
  /** What else can be done about one. */
  more?: (question: Question) => ReactNode
}

/** What students asked about marks: those that wait, the latest first, then what was answered. */
export function QuestionsPart({ courseId, answers, nav, more }: Props) {
  const asked = useQuestions(courseId)
  const called = useCalled()
  const all = asked.data ?? []
  const { at, choose: setChosen } = useChosen(all.map((q) => q.id))
  const chosen = all[at] as Question | undefined
  const goTo = (to: number) => setChosen(all[Math.max(0, Math.min(all.length - 1, to))]?.id ?? null)
  useKeys([
    { key: 'ArrowDown', does: 'next question', run: () => goTo(at + 1) },
    { key: 'ArrowUp', does: 'question before', run: () => goTo(at - 1) },
  ])
  const problem = problemOf(asked)
  const waiting = all.filter((q) => q.answer === null).length
  return (
    <div className={chosen ? 'work' : 'work alone'}>
      <main className="table-side">
        <div className="stop-head">
          <h1>
            {waiting === 0 ? 'No question waits' : `${counted(waiting, 'question')} ${waiting === 1 ? 'waits' : 'wait'} for an answer`}
          </h1>
          <div className="at-end">{nav}</div>
        </div>
        <WriteProblem />
        {problem && <p className="note bad">{problem}</p>}
        {asked.data && all.length === 0 && (
          <p className="empty">
            What students ask about marks that are out comes here, with what they say should be looked at. Whether they may ask, and for how
            long, is set at Set out, course.
          </p>
        )}
        {all.length > 0 && (
          <table className="grid">
            <thead>
              <tr>
                <th>student</th>
                <th>about</th>
                <th>what they say</th>
                <th>asked</th>
                <th>answered</th>
              </tr>
            </thead>
            <tbody>
              {all.map((q) => (
                <tr key={q.id} className="pick" aria-selected={q === chosen} onClick={() => setChosen(q.id)}>
                  <td className="fw-semibold text-nowrap">
                    <button className="row-name" onClick={() => setChosen(q.id)}>
                      {called(q)}
                    </button>
                    <small className="soft d-block fw-normal">{q.section}</small>
                  </td>
                  <td className="text-nowrap">
                    {q.assessment}
                    {q.about && <small className="soft d-block">{q.about}</small>}
                  </td>
                  <td dir="auto" className="py-1">
                    {q.reason}
                  </td>
                  <td className="soft text-nowrap">{shownAt(q.at, 'd MMM')}</td>
                  <td className="text-nowrap">
                    {q.answer ? <span className="soft">{shownAt(q.answer.at, 'd MMM')}</span> : <b className="ochre">not yet</b>}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
      {chosen && (
        <CloseUp>
          <AnswerQuestion key={chosen.id} courseId={courseId} question={chosen} answers={answers} />
          {more?.(chosen)}
        </CloseUp>
      )}
    </div>
  )
}
