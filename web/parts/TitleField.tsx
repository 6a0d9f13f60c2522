import { useEffect, useState } from 'react'

/** A title edited in place: Enter or leaving commits, Esc puts it back. */
export function TitleField({
  label,
  value,
  disabled,
  onCommit,
}: {
  label: string
  value: string
  disabled: boolean
  onCommit: (title: string) => void
}) {
  const [text, setText] = useState(value)
  useEffect(() => setText(value), [value])
  const commit = () => {
    const title = text.trim()
    if (title === '' || title === value) setText(value)
    else onCommit(title)
  }
  return (
    <input
      className="cell-input words"
      aria-label={label}
      title={value}
      disabled={disabled}
      maxLength={200}
      value={text}
      data-clean={text === value}
      onChange={(e) => setText(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur()
        if (e.key === 'Escape') setText(value)
      }}
    />
  )
}
