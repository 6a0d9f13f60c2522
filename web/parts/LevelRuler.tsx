import { counted } from './format'
import styles from './level-ruler.module.css'

const WIDTH = 120
const HEIGHT = 22
const EDGE = 8
const LINE = 8
/** Results before the standing that are drawn; the rest are counted in words. */
const MOST_DOTS = 12

/** Where a level lies on its ruler. */
export const placeAt = (level: number, levels: number, width = WIDTH): number =>
  EDGE + (levels < 2 ? 0 : ((level - 1) / (levels - 1)) * (width - 2 * EDGE))

interface Props {
  labels: readonly string[]
  /** The level from which it counts as reached. */
  reached: number
  standing: { level: number | null; reached: boolean; results: number; history: readonly number[] }
}

/** A level as a place on a ruler and a word: the long tick is where it counts as reached, dots beneath are the results before. */
export function LevelRuler({ labels, reached, standing }: Props) {
  const { level, results, history } = standing
  if (level === null)
    return (
      <span className="soft small">
        {results === 0 ? 'not seen yet' : `seen ${results === 1 ? 'once' : `${results} times`}, not enough`}
      </span>
    )
  const before = history.slice(0, -1).slice(-MOST_DOTS)
  const words = `${labels[level - 1]}, ${standing.reached ? 'reached' : 'not reached'}, ${counted(results, 'result')}${before.length > 0 ? `; before: ${before.map((l) => labels[l - 1]).join(', ')}` : ''}`
  const seen = new Map<number, number>()
  return (
    <span className={styles.levelRuler}>
      <svg width={WIDTH} height={HEIGHT} role="img" aria-label={words}>
        <line x1={EDGE} x2={WIDTH - EDGE} y1={LINE} y2={LINE} className={styles.rulerLine} />
        {labels.map((label, i) => {
          const long = i + 1 === reached
          const x = placeAt(i + 1, labels.length)
          return (
            <line
              key={label}
              x1={x}
              x2={x}
              y1={LINE - (long ? 8 : 3)}
              y2={LINE + (long ? 8 : 3)}
              className={long ? styles.rulerLong : styles.rulerLine}
            />
          )
        })}
        <ellipse
          cx={placeAt(level, labels.length)}
          cy={LINE}
          rx="6.5"
          ry="5"
          className={standing.reached ? `${styles.stands} ${styles.reached}` : styles.stands}
        />
        {before.map((l, i) => {
          const nth = seen.get(l) ?? 0
          seen.set(l, nth + 1)
          return <circle key={i} cx={placeAt(l, labels.length) - 4 + nth * 4} cy={HEIGHT - 3} r="1.5" className={styles.rulerBefore} />
        })}
      </svg>
      <span aria-hidden className={standing.reached ? 'fw-semibold' : 'soft'}>
        {labels[level - 1]}
      </span>
    </span>
  )
}
