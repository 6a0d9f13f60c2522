import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { Link } from 'react-router'
import { routes, type Sharing } from '#contract'
import { useDraft } from '../../../saving/drafts'
import { ask } from '../../../saving/ask'
import { useWrites } from '../../../saving/writes'
import { counted, today } from '../../../parts/format'

/** A letter to everyone who has something left to read, or to those alone whose day has passed. */
export function Remind({ courseId, sharing }: { courseId: string; sharing: Sharing }) {
  const { write } = useWrites()
  const [words, setWords, dropWords] = useDraft(`remind ${courseId} ${sharing.assessment.id}`)
  const [sent, setSent] = useState<number | null>(null)
  const behind = sharing.loads.filter((l) => l.handedIn < l.allotted)
  const late = behind.filter((l) => l.due !== null && l.due < today())
  if (behind.length === 0) return null
  const remind = async (whom: Sharing['loads']) => {
    const done = await write(
      'send reminders',
      ask(routes.remind, {
        params: { courseId, assessmentId: sharing.assessment.id },
        body: { markerIds: whom.map((l) => l.id), words },
      }),
    )
    setSent(done?.sent ?? null)
    if (done) dropWords()
  }
  return (
    <section>
      <h2>Remind</h2>
      <p className="soft mb-1">The letter says how much is left and by when it is wanted.</p>
      <Form.Control
        as="textarea"
        rows={2}
        size="sm"
        maxLength={2000}
        aria-label="A few words of your own"
        placeholder="a few words of your own"
        value={words}
        onChange={(e) => setWords(e.target.value)}
      />
      <span className="buttons mt-2">
        <Button size="sm" variant="outline-primary" onClick={() => void remind(behind)}>
          Remind {behind.length === 1 ? behind[0]!.name : `the ${behind.length} who have something left`}
        </Button>
        {late.length > 0 && late.length < behind.length && (
          <Button size="sm" variant="outline-primary" onClick={() => void remind(late)}>
            Only the {late.length} who are late
          </Button>
        )}
      </span>
      {sent !== null && (
        <p role="status" className="mb-0 mt-1">
          {counted(sent, 'letter')} sent. <Link to={`/courses/${courseId}/post`}>The post</Link>
        </p>
      )}
    </section>
  )
}
