import { numeral, signed } from '../../../parts/format'
import type { LeansByCriterion } from '../criteria/figures'
import styles from '../compare.module.css'

interface Props {
  marker: string
  criterion: { title: string; max: number }
  lean: LeansByCriterion['leans'][string][number]
  chosen: boolean
  /** Lists whose scripts it is about. */
  onChoose: () => void
}

/** A lean that would not be nothing once it is rounded. */
const SEEN = 0.05
/** Share of a criterion’s points at which a lean is drawn at full strength. */
const FULL = 0.2

/** A marker’s lean on one criterion: the figure, on pine for more and ochre for less, the stronger the further. */
export function LeanCell({ marker, criterion, lean, chosen, onChoose }: Props) {
  if (!lean || lean.effect === null) return <td className={`${styles.cell} soft`}>–</td>
  const { effect, interval } = lean
  const strength = Math.min(1, Math.abs(effect) / (criterion.max * FULL))
  const sure = interval !== null && (interval[0] > 0 || interval[1] < 0) && Math.abs(effect) >= SEEN
  const words = `${marker} on ${criterion.title}: ${signed(effect)} of ${numeral(criterion.max)}${interval ? `, 95% ${signed(interval[0])} to ${signed(interval[1])}` : ''}`
  return (
    <td className={styles.cell}>
      <button
        title={words}
        aria-label={words}
        aria-pressed={chosen}
        onClick={onChoose}
        style={{
          background: `color-mix(in srgb, var(${effect > 0 ? '--step-4' : '--ochre-wash'}) ${Math.round(strength * 100)}%, transparent)`,
          fontWeight: sure ? 600 : 400,
        }}
      >
        {signed(effect)}
      </button>
    </td>
  )
}
