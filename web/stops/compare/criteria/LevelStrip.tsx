import { counted, numeral, share } from '../../../parts/format'
import styles from '../compare.module.css'
import type { ComparedCriterion } from './figures'

interface Props {
  criterion: ComparedCriterion
  /** The level that is looked at; null for none. */
  chosen: number | null
  onPick: (level: number) => void
}

/** Below this share there is no room for a figure. */
const ROOM = 0.06

/**
 * How often each level was given, as one strip from the lowest to the highest: one hue from light to dark, points written in. It is a
 * picture that the mouse can point at; the levels are chosen by key, or in the list beside it.
 */
export function LevelStrip({ criterion: c, chosen, onPick }: Props) {
  if (c.labels.length === 0) return <span className="soft small">points are free: it has no levels</span>
  const all = Math.max(
    1,
    c.levels.reduce((s, n) => s + n, 0),
  )
  const words = c.levels.map((n, at) => `${numeral(c.labels[at]!.points)} points ${counted(n, 'time')}`).join(', ')
  return (
    <div className={styles.levels} role="img" aria-label={`${c.title}: ${words}`}>
      {c.levels.map((n, at) => {
        const { points, words: level } = c.labels[at]!
        const step = 1 + Math.round((4 * at) / Math.max(1, c.levels.length - 1))
        return (
          <i
            key={at}
            className={at === chosen ? styles.chosen : undefined}
            style={{ flexGrow: n, flexBasis: n === 0 ? 4 : 0, flexShrink: 0, background: `var(--step-${step})` }}
            title={`${numeral(points)}: ${level} · ${counted(n, 'time')} (${share(n / all)})`}
            onClick={(e) => {
              e.stopPropagation()
              onPick(at)
            }}
          >
            {n / all >= ROOM ? numeral(points) : ''}
          </i>
        )
      })}
    </div>
  )
}
