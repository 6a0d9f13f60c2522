import { useTyped } from './useTyped'

/** A title edited in place: Enter or leaving commits, Esc puts it back. */
export function TitleField({
  label,
  value,
  disabled,
  placeholder,
  optional = false,
  onCommit,
}: {
  label: string
  value: string
  disabled: boolean
  placeholder?: string
  /** Emptied, it is none. */
  optional?: boolean
  onCommit: (title: string) => void
}) {
  const { text, type, sent, putBack } = useTyped(
    value,
    (left) => left.trim() !== value && (left.trim() !== '' || optional) && onCommit(left.trim()),
  )
  const commit = () => {
    const title = text.trim()
    if ((title === '' && !optional) || title === value) return putBack()
    sent()
    onCommit(title)
  }
  return (
    <input
      className="cell-input words"
      aria-label={label}
      title={value}
      disabled={disabled}
      placeholder={placeholder}
      maxLength={200}
      value={text}
      data-clean={text === value}
      onChange={(e) => type(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur()
        if (e.key === 'Escape') putBack()
      }}
    />
  )
}
