import { ReadingShape, TypedShape } from '../../parts/ReadingsLine'
import { numeral } from '../../parts/format'
import styles from './reconcile.module.css'

const NTH = ['first reading', 'second', 'third', 'fourth']

interface Props {
  /** Readings of a script at most. */
  most: number
  /** Null where assessments with several are shown. */
  tolerance: number | null
  typed: boolean
}

/** What the shapes on the lines mean. */
export function Legend({ most, tolerance, typed }: Props) {
  return (
    <p className={`${styles.legend} small soft`}>
      {NTH.slice(0, most).map((words, i) => (
        <span key={words}>
          <svg width="14" height="14" aria-hidden>
            <ReadingShape nth={i} cx={7} cy={7} />
          </svg>
          {words}
        </span>
      ))}
      <span>
        <i className={styles.band} /> {tolerance === null ? 'within tolerance' : `within ${numeral(tolerance)}`}
      </span>
      <span>
        <i className={styles.tick} /> agreed
      </span>
      {typed && (
        <span>
          <svg width="14" height="14" aria-hidden>
            <TypedShape cx={7} cy={7} />
          </svg>
          typed in the sheet
        </span>
      )}
      {tolerance === null && <span>on the axis in percent, spread and agreed in marks</span>}
    </p>
  )
}
