import { Button, Form } from 'react-bootstrap'
import { useDraft } from '../saving/drafts'

interface Props {
  what: string
  action: string
  /** Names the place that the words are kept under until they are sent. */
  draft: string
  /** @returns whether they were taken */
  onSend: (words: string) => Promise<boolean>
  onClose: () => void
}

/** A few words that are sent by a button, and kept until they are. */
export function WordsForm({ what, action, draft, onSend, onClose }: Props) {
  const [words, setWords, drop] = useDraft(draft)
  return (
    <Form
      onSubmit={(e) => {
        e.preventDefault()
        void onSend(words.trim()).then((sent) => sent && drop())
      }}
    >
      <Form.Control
        as="textarea"
        autoFocus
        rows={2}
        aria-label={what}
        value={words}
        maxLength={2000}
        onChange={(e) => setWords(e.target.value)}
        onKeyDown={(e) => e.key === 'Escape' && onClose()}
      />
      <div className="d-flex gap-2 mt-1">
        <Button type="submit" size="sm" variant="outline-primary" disabled={words.trim() === ''}>
          {action}
        </Button>
        <Button size="sm" variant="link" onClick={onClose}>
          Not now
        </Button>
      </div>
    </Form>
  )
}
