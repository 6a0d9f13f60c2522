import styles from './standings.module.css'
import type { LevelCounts } from '#core/outcomes'
import { placeAt } from '../../../parts/LevelRuler'

const HIGH = 22

/** The share at each level, as bars over the places of the levels. */
export function LevelBars({ labels, reached, counts }: { labels: readonly string[]; reached: number; counts: LevelCounts }) {
  const all = counts.perLevel.reduce((n, x) => n + x, 0)
  const shares = counts.perLevel.map((n) => (all === 0 ? 0 : n / all))
  const most = Math.max(...shares, 0.01)
  const words = labels.map((l, i) => `${l} ${Math.round(shares[i]! * 100)}%`).join(', ')
  return (
    <svg width={120} height={38} role="img" aria-label={`${words}; ${counts.none} without enough evidence`}>
      {shares.map((s, i) => {
        const x = placeAt(i + 1, labels.length)
        const h = (s / most) * HIGH
        return (
          <g key={labels[i]}>
            <rect
              x={x - 5}
              y={HIGH + 1 - h}
              width="10"
              height={Math.max(h, 0.8)}
              className={i + 1 >= reached ? styles.barReached : styles.bar}
            />
            <text x={x} y={35} textAnchor="middle">
              {Math.round(s * 100)}
            </text>
          </g>
        )
      })}
    </svg>
  )
}
