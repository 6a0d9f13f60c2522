import { useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Form } from 'react-bootstrap'
import { foldedName } from '#core/roll'
import { routes, type KeptComment, type ReadingBody } from '#contract'
import { call } from '../../../api/client'
import { useKeptComments } from './queries'
import styles from './desk.module.css'

const SHOWN = 6

/** What is said to the student about the whole, notes for markers, and one's own stock of comments, found by typing. */
export function Comments({
  courseId,
  body,
  disabled,
  onChange,
}: {
  courseId: string
  body: ReadingBody
  disabled: boolean
  onChange: (body: ReadingBody) => void
}) {
  const queries = useQueryClient()
  const kept = useKeptComments(courseId)
  const [find, setFind] = useState('')
  const fresh = () => queries.invalidateQueries({ queryKey: ['kept comments', courseId] })
  // What goes into the comment is in it; the stock follows when the server is back and it is used again.
  const unkept = () => undefined
  const wanted = foldedName(find)
  const foundIn = (stock: readonly KeptComment[]) => stock.filter((k) => foldedName(k.words).includes(wanted)).slice(0, SHOWN)
  const found = foundIn(kept.data ?? [])
  const latest = useRef(body)
  latest.current = body
  const insert = (k: KeptComment) => {
    onChange({ ...latest.current, comment: [latest.current.comment.trim(), k.words].filter(Boolean).join('\n') })
    setFind('')
    void call(routes.keepComment, { params: { courseId }, body: { words: k.words } }).then(fresh, unkept)
  }
  /** Pressed before the stock has come, it counts once it is here. */
  const insertFirst = async () => {
    const [first] = foundIn(kept.data ?? (await kept.refetch({ cancelRefetch: false })).data ?? [])
    if (first) insert(first)
  }
  const last = body.comment.trim().split('\n').at(-1)?.trim() ?? ''
  const isNew = last !== '' && !(kept.data ?? []).some((k) => k.words === last)
  return (
    <div className={styles.deskComments}>
      <Form.Group controlId="desk-comment">
        <Form.Label className="soft small mb-0">For the student</Form.Label>
        <textarea
          id="desk-comment"
          className="words-field"
          rows={2}
          maxLength={10_000}
          dir="auto"
          disabled={disabled}
          value={body.comment}
          onChange={(e) => onChange({ ...body, comment: e.target.value })}
        />
      </Form.Group>
      {!disabled && (
        <div className={styles.stock}>
          <Form.Control
            size="sm"
            aria-label="Find in your stock of comments"
            placeholder="your stock: type to find, Enter puts the first in"
            value={find}
            onChange={(e) => setFind(e.target.value)}
            onKeyDown={(e) => {
              if (e.key !== 'Enter' || e.ctrlKey || wanted === '') return
              e.preventDefault()
              void insertFirst()
            }}
          />
          {isNew && (
            <button
              className="quiet-button small"
              title={last}
              onClick={() => void call(routes.keepComment, { params: { courseId }, body: { words: last } }).then(fresh, unkept)}
            >
              keep the last line
            </button>
          )}
          {wanted !== '' && (
            <ul className="people w-100">
              {found.map((k) => (
                <li key={k.id}>
                  <button className="row-name" onClick={() => insert(k)}>
                    {k.words}
                  </button>
                  <button
                    className="quiet-button small"
                    aria-label={`Take “${k.words}” out of the stock`}
                    onClick={() => void call(routes.dropComment, { params: { courseId, commentId: k.id } }).then(fresh, unkept)}
                  >
                    drop
                  </button>
                </li>
              ))}
              {found.length === 0 && (
                <li className="soft small">{kept.isPending ? 'Fetching your stock…' : 'Nothing in your stock says that.'}</li>
              )}
            </ul>
          )}
        </div>
      )}
      <Form.Group controlId="desk-notes">
        <Form.Label className="soft small mb-0">Notes for markers only</Form.Label>
        <textarea
          id="desk-notes"
          className="words-field"
          rows={1}
          maxLength={10_000}
          dir="auto"
          disabled={disabled}
          value={body.notes}
          onChange={(e) => onChange({ ...body, notes: e.target.value })}
        />
      </Form.Group>
    </div>
  )
}
