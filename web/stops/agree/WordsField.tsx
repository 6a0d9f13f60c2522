import { useEffect, useState } from 'react'

/** A few lines edited in place: leaving commits, Esc puts them back. */
export function WordsField({
  label,
  value,
  placeholder,
  quiet = false,
  onCommit,
}: {
  label: string
  value: string
  placeholder: string
  quiet?: boolean
  onCommit: (words: string) => void
}) {
  const [text, setText] = useState(value)
  useEffect(() => setText(value), [value])
  return (
    <textarea
      className={`words-field ${quiet ? 'quiet' : ''}`}
      aria-label={label}
      placeholder={placeholder}
      rows={quiet ? 1 : 2}
      maxLength={2000}
      value={text}
      dir="auto"
      data-clean={text === value}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => text !== value && onCommit(text)}
      onKeyDown={(e) => {
        if (e.key === 'Escape') setText(value)
      }}
    />
  )
}
