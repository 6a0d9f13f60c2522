import { NumberField } from '../../../parts/NumberField'
import styles from '../rescale.module.css'

/** The one number of a method, typed. */
export const OneNumber = ({
  words,
  value,
  step,
  min,
  max,
  onCommit,
}: {
  words: string
  value: number
  step: number
  min: number
  max: number
  onCommit: (value: number) => void
}) => (
  <div className={styles.points}>
    <label className="d-flex gap-2 align-items-baseline">
      {words}
      <NumberField label={words} value={value} min={min} max={max} step={step} onCommit={(v) => v !== null && onCommit(v)} />
    </label>
  </div>
)
