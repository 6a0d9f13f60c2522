import { useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { routes, type BetweenTwo, type DeskScript } from '#contract'
import { useDraft } from '../../../saving/drafts'
import { ask, type Asked } from '../../../saving/ask'
import { useWrites, WriteProblem, WritesProvider } from '../../../saving/writes'
import { numeral, typedNumber } from '../../../parts/format'
import { deskKey } from './queries'

interface Props {
  courseId: string
  script: DeskScript
  between: BetweenTwo
  own: number | null
}

/** Two readers who disagree see both marks; one proposes a mark with a reason, the other agrees or not. */
export const Between = (props: Props) => (
  <WritesProvider courseId={props.courseId}>
    <OfTwo {...props} />
  </WritesProvider>
)

function OfTwo({ courseId, script, between: { other, said, proposal }, own }: Props) {
  const params = { courseId, assessmentId: script.assessment.id, studentId: script.studentId }
  const answers = proposal !== null && !proposal.mine && proposal.agrees === null
  return (
    <section className="note" aria-label="Between the two of you">
      <p className="mb-1">
        {other === null ? (
          'What the two of you said about this script. There is nothing to agree on any more.'
        ) : (
          <>
            You gave <b>{numeral(own)}</b>, the other reader <b>{numeral(other)}</b>: further apart than may be. Agree on a mark between
            you, or the lead settles it.
          </>
        )}
      </p>
      <WriteProblem />
      {said.length > 0 && (
        <ol className="list-unstyled mb-1" aria-label="What you two said">
          {said.map((b) => (
            <li key={b.at} className={b.holds && !b.withdrawn ? undefined : 'soft'}>
              {b.mine ? 'You proposed' : 'The other reader proposed'} <b>{numeral(b.mark)}</b>: <span dir="auto">{b.reason}</span>
              {b.withdrawn && ' · withdrawn'}
              {!b.holds && ' · a reading has changed since'}
              {b.holds && !b.withdrawn && b.agrees === null && b.mine && <span className="soft"> · waits for an answer</span>}
              {b.agrees === true && <b> · agreed: it goes to the lead as that</b>}
              {b.agrees === false && (
                <span className="ochre">
                  {' '}
                  · {b.mine ? 'the other reader does not agree' : 'you do not agree'}: <span dir="auto">{b.answer}</span>
                </span>
              )}
            </li>
          ))}
        </ol>
      )}
      {proposal?.mine && proposal.agrees === null && <Withdraw params={params} />}
      {other !== null && (answers ? <Answer params={params} /> : proposal?.agrees !== true && <Propose params={params} script={script} />)}
    </section>
  )
}

interface Of {
  params: { courseId: string; assessmentId: string; studentId: string }
}

/** A write between the two, after which the script is fetched anew. */
function useBetween({ courseId, assessmentId, studentId }: Of['params']) {
  const { write } = useWrites()
  const queries = useQueryClient()
  return async <T,>(label: string, sends: Asked<T>): Promise<T | null> => {
    const done = await write(label, sends)
    await queries.invalidateQueries({ queryKey: deskKey(courseId, assessmentId, studentId) })
    return done
  }
}

function Withdraw({ params }: Of) {
  const write = useBetween(params)
  return (
    <Button
      size="sm"
      variant="link"
      className="p-0 mb-1"
      onClick={() => void write('withdraw a proposal', ask(routes.withdrawBetween, { params }))}
    >
      Withdraw your proposal
    </Button>
  )
}

function Propose({ params, script }: Of & { script: DeskScript }) {
  const write = useBetween(params)
  const [text, setText, dropText] = useDraft(`between ${script.assessment.id} ${script.studentId}`)
  const [reason, setReason, dropReason] = useDraft(`between because ${script.assessment.id} ${script.studentId}`)
  const mark = typedNumber(text)
  const wrong = text !== '' && (mark === null || mark < 0 || mark > script.assessment.outOf)
  return (
    <Form
      className="d-flex gap-2 align-items-baseline"
      onSubmit={(e) => {
        e.preventDefault()
        if (mark === null || wrong || reason.trim() === '') return
        void write('propose a mark', ask(routes.proposeBetween, { params, body: { mark, reason: reason.trim() } })).then((done) => {
          if (done === null) return
          dropText()
          dropReason()
        })
      }}
    >
      <Form.Control
        size="sm"
        aria-label="Mark to propose"
        placeholder="mark"
        inputMode="decimal"
        style={{ width: 70 }}
        value={text}
        isInvalid={wrong}
        onChange={(e) => setText(e.target.value)}
      />
      <Form.Control
        size="sm"
        aria-label="Why this mark"
        placeholder="because"
        value={reason}
        maxLength={2000}
        onChange={(e) => setReason(e.target.value)}
      />
      <Button type="submit" size="sm" variant="outline-primary" disabled={mark === null || wrong || reason.trim() === ''}>
        Propose
      </Button>
    </Form>
  )
}

function Answer({ params }: Of) {
  const write = useBetween(params)
  const [words, setWords] = useState('')
  const send = (agrees: boolean) => void write('answer', ask(routes.answerBetween, { params, body: { agrees, words: words.trim() } }))
  return (
    <Form
      className="d-flex gap-2 align-items-baseline"
      onSubmit={(e) => {
        e.preventDefault()
        if (words.trim() !== '') send(false)
      }}
    >
      <Button size="sm" onClick={() => send(true)}>
        Agree
      </Button>
      <Form.Control
        size="sm"
        aria-label="Why not"
        placeholder="or say why not"
        value={words}
        maxLength={2000}
        onChange={(e) => setWords(e.target.value)}
      />
      <Button type="submit" size="sm" variant="outline-primary" className="text-nowrap" disabled={words.trim() === ''}>
        Not so
      </Button>
    </Form>
  )
}
