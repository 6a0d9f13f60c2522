import { writeWeekdays } from '#core/exchange/weekdays'
import styles from './roll.module.css'

const DAYS = [1, 2, 3, 4, 5, 6, 7]

export function WeekdayChoice({
  value,
  disabled,
  onChange,
}: {
  value: readonly number[]
  disabled: boolean
  onChange: (weekdays: number[]) => void
}) {
  return (
    <span className={`pill-choice ${styles.days}`} role="group" aria-label="Weekdays">
      {DAYS.map((d) => (
        <button
          key={d}
          type="button"
          disabled={disabled}
          aria-pressed={value.includes(d)}
          onClick={() => onChange(value.includes(d) ? value.filter((x) => x !== d) : [...value, d].sort((a, b) => a - b))}
        >
          {writeWeekdays([d])}
        </button>
      ))}
    </span>
  )
}
