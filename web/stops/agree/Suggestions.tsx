import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { routes, type Suggestion } from '#contract'
import { useDraft } from '../../saving/drafts'
import { ask } from '../../saving/ask'
import { useWrites } from '../../saving/writes'
import type { Entry } from './library'
import { shownAt } from '../../parts/format'

interface Props {
  courseId: string
  entry: Entry
  /** The entry is this person's own, who answers. */
  own: boolean
  /** A copy of one's own that could be suggested. */
  copy: Entry | null
  onMoved: (id: string) => void
}

/** Changes that others would like to see: answered by the owner, made by everybody else. */
export function Suggestions({ courseId, entry, own, copy, onMoved }: Props) {
  const { write } = useWrites()
  const [words, setWords, dropWords] = useDraft(`suggestion ${courseId} ${entry.standard.id}`)
  const [withCopy, setWithCopy] = useState(true)
  const waiting = entry.standard.suggestions.filter((g) => !g.answer)
  const answered = entry.standard.suggestions.filter((g) => g.answer)
  const answer = async (g: Suggestion, how: 'taken over' | 'declined') => {
    const done = await write(
      `suggestion ${how}`,
      ask(routes.answerSuggestion, {
        params: { courseId, standardId: entry.standard.id, suggestionId: g.id },
        body: { answer: how, reply: '' },
      }),
    )
    if (done && done.id !== entry.standard.id) onMoved(done.id)
  }
  const suggest = async () => {
    const done = await write(
      'suggest a change',
      ask(routes.suggest, {
        params: { courseId, standardId: entry.standard.id },
        body: { words, copyId: copy && withCopy ? copy.standard.id : null },
      }),
    )
    if (done) dropWords()
  }
  if (own && entry.standard.suggestions.length === 0) return null
  return (
    <section>
      <h2>{own ? 'What others suggest' : `Suggest a change to ${entry.standard.owner}`}</h2>
      {waiting.map((g) => (
        <div key={g.id} className="suggestion">
          <p className="mb-0" dir="auto">
            {g.words}
          </p>
          <p className="soft small mb-1">
            {g.by}, {shownAt(g.at, 'd MMM')}
            {g.copyId && ', with a copy that has it'}
          </p>
          {own && (
            <span className="buttons">
              <Button size="sm" variant="outline-primary" onClick={() => void answer(g, 'taken over')}>
                {g.copyId ? 'Take it over' : 'I have taken it over'}
              </Button>
              <Button size="sm" variant="link" onClick={() => void answer(g, 'declined')}>
                Decline
              </Button>
            </span>
          )}
        </div>
      ))}
      {answered.length > 0 && <p className="soft small mb-1">{answered.map((g) => `${g.by}’s was ${g.answer}`).join('; ')}.</p>}
      {!own && (
        <>
          <Form.Control
            as="textarea"
            rows={2}
            size="sm"
            aria-label="What should change"
            placeholder="what should change, and why"
            maxLength={2000}
            value={words}
            onChange={(e) => setWords(e.target.value)}
          />
          {copy && (
            <Form.Check
              id="suggest-copy"
              className="small mt-1"
              label={`as in my copy, ${copy.standard.title}`}
              checked={withCopy}
              onChange={(e) => setWithCopy(e.target.checked)}
            />
          )}
          <Button size="sm" variant="outline-primary" className="mt-1" disabled={words.trim() === ''} onClick={() => void suggest()}>
            Suggest it
          </Button>
        </>
      )}
    </section>
  )
}
