import { useTyped } from '../../parts/useTyped'

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
  const { text, type, sent, putBack } = useTyped(value, (left) => left !== value && onCommit(left))
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
      onChange={(e) => type(e.target.value)}
      onBlur={() => {
        sent()
        if (text !== value) onCommit(text)
      }}
      onKeyDown={(e) => {
        if (e.key === 'Escape') putBack()
      }}
    />
  )
}
