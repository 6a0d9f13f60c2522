import { useState } from 'react'
import { flushSync } from 'react-dom'
import { routes, type Question } from '#contract'
import { ask } from '../../saving/ask'
import { useWrites } from '../../saving/writes'
import { numeral, shownAt } from '../format'
import { WordsForm } from '../WordsForm'
import { useCalled } from './useQuestions'

/** One question about a mark in full, and its answer or the words for one. */
export function AnswerQuestion({ courseId, question: q, answers }: { courseId: string; question: Question; answers: boolean }) {
  const { write } = useWrites()
  const called = useCalled()
  const [answering, setAnswering] = useState(false)
  const opener = `answer ${q.id}`
  const send = async (words: string) => {
    const done = await write(`answer ${called(q)}`, ask(routes.answerQuestion, { params: { courseId, questionId: q.id }, body: { words } }))
    return done !== null
  }
  const close = () => {
    flushSync(() => setAnswering(false))
    document.getElementById(opener)?.focus()
  }
  return (
    <section aria-label="The question">
      <h2>
        {called(q)}{' '}
        <span className="soft small fw-normal">
          {q.section} · {q.assessment}
          {q.about && `, ${q.about}`}
        </span>
      </h2>
      <p className="soft small mb-1">
        Asked {shownAt(q.at, 'd MMM, HH:mm')}
        {q.markThen !== null && `, when the mark was ${numeral(q.markThen)} of ${numeral(q.outOf)}`}
      </p>
      <blockquote className="note" dir="auto">
        {q.reason}
      </blockquote>
      {q.answer ? (
        <>
          <p className="mb-0" dir="auto">
            {q.answer.words}
          </p>
          <p className="soft small" role="status">
            Answered by {q.answeredBy}, {shownAt(q.answer.at, 'd MMM, HH:mm')}
          </p>
        </>
      ) : !answers ? (
        <p className="ochre">Not answered yet.</p>
      ) : answering ? (
        <WordsForm what="Your answer" action="Answer" draft={`answer question ${q.id}`} onSend={send} onClose={close} />
      ) : (
        <>
          <button id={opener} className="btn btn-outline-primary btn-sm" onClick={() => setAnswering(true)}>
            Answer
          </button>
          <p className="soft small mt-1">The student gets it as a letter. An answer changes no mark.</p>
        </>
      )}
    </section>
  )
}
