import { useId, useRef, useState } from 'react'
import { flushSync } from 'react-dom'
import { useHeld } from '../saving/saved'
import { numeral, typedNumber } from './format'
import { useTyped } from './useTyped'

interface Props {
  label: string
  value: number | null
  onCommit: (value: number | null) => void
  /** Whether it may be left empty. */
  optional?: boolean
  missing?: boolean
  /** What stands in it is not taken, for a reason that is said elsewhere. */
  refused?: boolean
  disabled?: boolean
  min?: number
  max?: number
  /** What the arrow keys add. */
  step?: number
  /** Enter and the arrow keys go on from it, and change nothing by surprise. */
  onWalk?: (by: 1 | -1, from: HTMLElement) => void
  className?: string
}

/**
 * A number edited in place: Enter commits and goes to the next one below, Esc puts it back, arrows step. What cannot be taken
 * stays, with the reason beneath, until it is mended or put back.
 */
export function NumberField({
  label,
  value,
  onCommit,
  optional = false,
  missing = false,
  refused = false,
  disabled = false,
  min = -Infinity,
  max = Infinity,
  step = 1,
  onWalk,
  className = '',
}: Props) {
  const shown = value === null ? '' : numeral(value)
  const { text, isTyping, type, sent, putBack } = useTyped(shown, () => !wrong && typed !== value && onCommit(typed))
  const [left, setLeft] = useState(false)
  const reasonId = useId()
  const field = useRef<HTMLInputElement>(null)
  const typed = text.trim() === '' ? null : typedNumber(text)
  const wrong = text.trim() === '' ? !optional && value !== null : typed === null || typed < min || typed > max
  const commit = () => {
    if (wrong) return
    if (typed === value) return putBack()
    sent()
    onCommit(typed)
  }
  const waits = wrong && left
  const reason = `${text.trim() === '' ? 'Emptied' : 'Not taken'}: give a number${min > -Infinity ? ` from ${numeral(min)}` : ''}${max < Infinity ? ` to ${numeral(max)}` : ''}`
  useHeld(waits ? `${label}: ${text.trim() === '' ? 'emptied' : text}` : null)
  const input = (
    <input
      ref={field}
      className={`cell-input ${missing && text === '' ? 'missing' : ''} ${wrong || refused ? 'wrong' : ''} ${className}`}
      aria-label={label}
      aria-invalid={wrong || refused}
      aria-describedby={waits ? reasonId : undefined}
      title={wrong ? `${reason}.` : undefined}
      inputMode="decimal"
      disabled={disabled}
      value={text}
      data-clean={text === shown}
      onChange={(e) => type(e.target.value)}
      onBlur={() => {
        setLeft(wrong)
        if (!wrong && isTyping()) commit()
      }}
      onKeyDown={(e) => {
        // What the screen does at Ctrl+Enter, it does with what is typed.
        if (e.key === 'Enter' && (e.ctrlKey || e.metaKey)) return flushSync(commit)
        if (e.key === 'Enter') {
          commit()
          setLeft(wrong)
          if (wrong) return e.preventDefault()
          if (onWalk) onWalk(1, e.currentTarget)
          else goDown(e.currentTarget)
        } else if (e.key === 'Escape') {
          // At once: the next key is meant for the page, and no more for the field.
          flushSync(() => {
            putBack()
            setLeft(false)
          })
          field.current?.blur()
        } else if (onWalk && (e.key === 'ArrowUp' || e.key === 'ArrowDown')) {
          commit()
          setLeft(wrong)
          if (!wrong) onWalk(e.key === 'ArrowUp' ? -1 : 1, e.currentTarget)
        } else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
          const next = (typed ?? value ?? 0) + (e.key === 'ArrowUp' ? step : -step)
          if (next >= min && next <= max) {
            sent()
            onCommit(Number(next.toFixed(3)))
          }
        } else return
        e.preventDefault()
      }}
    />
  )
  if (!waits) return input
  return (
    <>
      {input}
      <span id={reasonId} role="alert" className="field-reason">
        {reason}
        {value !== null && `; ${numeral(value)} is what stands`}.{' '}
        <button
          className="quiet-button"
          onClick={() => {
            putBack()
            setLeft(false)
            field.current?.focus()
          }}
        >
          Put it back
        </button>
      </span>
    </>
  )
}

/** To the same column of the next row that has a field there. */
function goDown(from: HTMLInputElement): void {
  const cell = from.closest('td')
  let row = cell?.parentElement?.nextElementSibling as HTMLTableRowElement | null | undefined
  while (cell && row) {
    const next = row.cells[cell.cellIndex]?.querySelector('input')
    if (next && !next.disabled) return void (next.focus(), next.select())
    row = row.nextElementSibling as HTMLTableRowElement | null
  }
}
