import 'react-day-picker/style.css'
import { formatISO, parseISO } from 'date-fns'
import { enGB } from 'date-fns/locale'
import { CalendarDays } from 'lucide-react'
import { useId, useRef, useState } from 'react'
import { Form, Overlay, Popover } from 'react-bootstrap'
import { DayPicker } from 'react-day-picker'
import { readDay, type Term } from '#core/roll'
import { useHeld } from '../saving/saved'
import { shownDay, today } from './format'
import { useTyped } from './useTyped'
import styles from './date-field.module.css'

interface Props {
  id?: string
  /** Where no label stands beside it. */
  label?: string
  /** ISO; empty is none. */
  value: string
  onCommit: (day: string) => void
  /** A date typed without a year is put nearest to it. */
  term?: Term
  /** The first day that can be given. */
  min?: string
  disabled?: boolean
  isInvalid?: boolean
  className?: string
}

const WHOLE = /^\d{4}-\d{2}-\d{2}$/

/**
 * A day, written as everywhere in the product and read as people write one: “3 Dec”, “3.12.2026”, “2026-12-03”; or chosen from a
 * month. What is no day stays, with the reason beneath, until it is mended or put back.
 */
export function DateField({ id, label, value, onCommit, term, min, disabled = false, isInvalid = false, className = '' }: Props) {
  const shown = value === '' ? '' : shownDay(value)
  const near = term ?? { firstDay: today(), lastDay: today() }
  const read = (text: string): string | null => {
    if (text.trim() === '') return ''
    const how = readDay(text, near)
    return typeof how !== 'string' && how.kind === 'day' && (min === undefined || how.day >= min) ? how.day : null
  }
  const { text, isTyping, type, sent, putBack } = useTyped(shown, (left) => {
    const day = read(left)
    if (day !== null && day !== value) onCommit(day)
  })
  const [waits, setWaits] = useState(false)
  const [open, setOpen] = useState(false)
  const whole = useRef<HTMLSpanElement>(null)
  const button = useRef<HTMLButtonElement>(null)
  const reasonId = useId()
  const give = (day: string) => {
    sent()
    setWaits(false)
    if (day === value) putBack()
    else onCommit(day)
  }
  const commit = () => {
    if (!isTyping()) return
    const day = read(text)
    if (day === null) setWaits(true)
    else give(day)
  }
  const close = () => {
    setOpen(false)
    button.current?.focus()
  }
  useHeld(waits ? `${label ?? 'a day'}: ${text}` : null)
  return (
    <span className={`${styles.dateField} ${className}`} ref={whole}>
      <Form.Control
        id={id}
        size="sm"
        aria-label={label}
        aria-describedby={waits ? reasonId : undefined}
        aria-invalid={waits || isInvalid}
        isInvalid={waits || isInvalid}
        autoComplete="off"
        placeholder="no day"
        disabled={disabled}
        value={text}
        onChange={(e) => {
          type(e.target.value)
          // Pasted or filled in whole, there is nothing to wait for.
          const day = WHOLE.test(e.target.value) ? read(e.target.value) : null
          if (day !== null) give(day)
        }}
        onBlur={commit}
        onKeyDown={(e) => {
          if (e.key === 'Enter') commit()
          else if (e.key === 'Escape' && isTyping()) {
            e.stopPropagation()
            putBack()
            setWaits(false)
          } else if (e.key === 'ArrowDown' && e.altKey) setOpen(true)
          else return
          if (e.key !== 'Enter') e.preventDefault()
        }}
      />
      {!disabled && (
        <button
          ref={button}
          type="button"
          aria-label={label ? `Open a month: ${label}` : 'Open a month'}
          title="Open a month (Alt ↓)"
          aria-expanded={open}
          onClick={() => setOpen((o) => !o)}
        >
          <CalendarDays size={14} aria-hidden />
        </button>
      )}
      {waits && (
        <span id={reasonId} role="alert" className="field-reason">
          {min !== undefined && `Give a day from ${shownDay(min)} on, `}
          {min === undefined && 'Not a day: write one '}as in 3 Dec or 2026-12-03.{' '}
          <button
            type="button"
            className="quiet-button"
            onClick={() => {
              putBack()
              setWaits(false)
            }}
          >
            Put it back
          </button>
        </span>
      )}
      <Overlay
        show={open}
        target={button}
        container={whole}
        placement="bottom-end"
        rootClose
        onHide={() => setOpen(false)}
        transition={false}
        popperConfig={{ strategy: 'fixed' }}
      >
        {(props) => (
          <Popover
            {...props}
            role="dialog"
            aria-label="A month"
            className={styles.dateMonth}
            onKeyDown={(e) => {
              if (e.key !== 'Escape') return
              e.stopPropagation()
              close()
            }}
          >
            <DayPicker
              mode="single"
              autoFocus
              locale={enGB}
              showOutsideDays
              weekStartsOn={1}
              defaultMonth={parseISO(value || (min ?? today()))}
              selected={value === '' ? undefined : parseISO(value)}
              today={parseISO(today())}
              disabled={min === undefined ? undefined : { before: parseISO(min) }}
              onSelect={(day) => {
                give(day ? formatISO(day, { representation: 'date' }) : '')
                close()
              }}
            />
          </Popover>
        )}
      </Overlay>
    </span>
  )
}
