import type { Point } from '#core/rescale'
import { NumberField } from '../../../parts/NumberField'
import { MapIn } from './MapIn'
import styles from '../rescale.module.css'

interface Props {
  points: Point[]
  outOf: number
  chosen: number
  onChoose: (at: number) => void
  onPoints: (points: Point[]) => void
  /** A map that came as a file. */
  onBroughtIn: (points: Point[]) => void
}

/** Points that can be pulled, typed: each stays between its neighbours. */
export function Points({ points, outOf, chosen, onChoose, onPoints, onBroughtIn }: Props) {
  return (
    <div className={styles.points}>
      {points.map((p, i) => {
        const put = (to: Point) => onPoints(points.map((q, j) => (j === i ? to : q)))
        return (
          <span key={i} className={i === chosen ? styles.chosen : undefined} onFocus={() => onChoose(i)}>
            <NumberField
              label={`Point ${i + 1} from`}
              value={p[0]}
              min={points[i - 1]?.[0] ?? 0}
              max={points[i + 1]?.[0] ?? outOf}
              step={0.5}
              onCommit={(x) => x !== null && put([x, p[1]])}
            />
            →
            <NumberField
              label={`Point ${i + 1} becomes`}
              value={p[1]}
              min={points[i - 1]?.[1] ?? 0}
              max={points[i + 1]?.[1] ?? outOf}
              step={0.5}
              onCommit={(y) => y !== null && put([p[0], y])}
            />
          </span>
        )
      })}
      <MapIn outOf={outOf} onPoints={onBroughtIn} />
    </div>
  )
}
