import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { routes, type OwnWork } from '#contract'
import { call, messageOf } from '../api/client'
import { numeral, shownAt, shownDay } from '../parts/format'
import { useDraft } from '../saving/drafts'
import styles from './student.module.css'

interface Props {
  courseId: string
  work: OwnWork['work'][number]
  asking: NonNullable<OwnWork['work'][number]['asking']>
}

/** What was asked about a mark, what was answered, and where it can still be asked. */
export function Asking({ courseId, work, asking: { until, criteria, questions } }: Props) {
  const queries = useQueryClient()
  const [isOpen, setOpen] = useState(false)
  const [about, setAbout] = useState('')
  const [reason, type, drop] = useDraft(`ask ${work.id}`)
  const ask = useMutation({
    mutationFn: () =>
      call(routes.ask, { params: { courseId }, body: { assessmentId: work.id, criterionId: about === '' ? null : about, reason } }),
    onSuccess: async () => {
      drop()
      setOpen(false)
      await queries.invalidateQueries({ queryKey: ['own work', courseId] })
    },
  })
  if (until === null && questions.length === 0) return null
  return (
    <section aria-label={`Asking about ${work.assessment}`}>
      <h2>Asking about this mark</h2>
      {questions.map((q) => (
        <article key={q.id} className={styles.asked}>
          <p className="soft small">
            You asked on {shownAt(q.at, 'd MMMM')}
            {q.about && ` about ${q.about}`}
            {q.markThen !== null && q.markThen !== work.mark && `, when the mark was ${numeral(q.markThen)}`}:
          </p>
          <p dir="auto">{q.reason}</p>
          {q.answer ? (
            <p className={styles.answer} dir="auto">
              {q.answer.words} <span className="soft small">Answered on {shownAt(q.answer.at, 'd MMMM')}.</span>
            </p>
          ) : (
            <p className="ochre">It waits for an answer.</p>
          )}
        </article>
      ))}
      <p role="status" className={ask.isSuccess ? undefined : 'visually-hidden'}>
        {ask.isSuccess && 'Asked. Whoever teaches your section and leads the course has it now.'}
      </p>
      {until === null ? (
        <p className="soft">The days for asking about it are over.</p>
      ) : !isOpen ? (
        <p>
          <Button size="sm" variant="outline-primary" onClick={() => setOpen(true)}>
            Ask about this mark
          </Button>{' '}
          <span className="soft small">until {shownDay(until, 'EEEE d MMMM')}</span>
        </p>
      ) : (
        <Form
          onSubmit={(e) => {
            e.preventDefault()
            ask.mutate()
          }}
        >
          <Form.Group controlId="ask-about" className="mb-2">
            <Form.Label>What it is about</Form.Label>
            <Form.Select size="sm" value={about} autoFocus onChange={(e) => setAbout(e.target.value)}>
              <option value="">the mark as a whole</option>
              {criteria.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.title}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Group controlId="ask-reason" className="mb-2">
            <Form.Label>What should be looked at again, and why</Form.Label>
            <Form.Control as="textarea" rows={4} maxLength={2000} value={reason} onChange={(e) => type(e.target.value)} />
          </Form.Group>
          {ask.error && (
            <p className="note bad" role="alert">
              {messageOf(ask.error)}
            </p>
          )}
          <div className="d-flex gap-2">
            <Button size="sm" type="submit" disabled={ask.isPending || reason.trim().length < 10}>
              Ask
            </Button>
            <Button size="sm" variant="link" onClick={() => setOpen(false)}>
              Not now
            </Button>
          </div>
        </Form>
      )}
    </section>
  )
}
