import { useState } from 'react'
import styles from './desk.module.css'

/** A comment on one criterion: a line that opens when it is wanted. */
export function CriterionComment({
  title,
  words,
  disabled,
  onChange,
}: {
  title: string
  words: string
  disabled: boolean
  onChange: (words: string) => void
}) {
  const [open, setOpen] = useState(false)
  if (words === '' && !open)
    return disabled ? null : (
      <button className={`quiet-button small ${styles.commentButton}`} aria-label={`Comment on ${title}`} onClick={() => setOpen(true)}>
        comment
      </button>
    )
  return (
    <textarea
      className="words-field"
      aria-label={`Comment on ${title}`}
      rows={1}
      maxLength={10_000}
      autoFocus={open && words === ''}
      disabled={disabled}
      dir="auto"
      value={words}
      onChange={(e) => onChange(e.target.value)}
      onBlur={() => setOpen(false)}
    />
  )
}
