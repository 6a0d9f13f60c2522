import type { WeighedAssessment } from './figures'
import styles from './weights.module.css'
import { fixed } from '../../../parts/format'

interface Props {
  row: WeighedAssessment
  /** Share at the right end. */
  most: number
}

const W = 460
const H = 24

/** What an assessment should carry, carries elsewhere and decides: a tick, squares and the bubble on one line. */
export function WeightLine({ row: { title, should, elsewhere, decides, off }, most }: Props) {
  const x = (share: number) => 8 + (Math.max(0, Math.min(most, share)) / most) * (W - 16)
  const percent = (share: number) => `${fixed(100 * share)}%`
  const words = [
    should === null ? `${title} is a bonus` : `${title} should carry ${percent(should)}`,
    ...elsewhere.map((e) => `carries ${percent(e.share)} in ${e.name}`),
    decides === null ? 'what it decides cannot be told' : `decides ${percent(decides)}`,
  ].join(', ')
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className={styles.line} role="img" aria-label={words}>
      <line x1={8} x2={W - 8} y1={H / 2 + 3} y2={H / 2 + 3} stroke="var(--rule)" />
      {should !== null && decides !== null && (
        <line
          x1={x(should)}
          x2={x(decides)}
          y1={H / 2 + 3}
          y2={H / 2 + 3}
          stroke={off ? 'var(--ochre)' : 'var(--bubble)'}
          strokeWidth={5}
        />
      )}
      {should !== null && <line x1={x(should)} x2={x(should)} y1={3} y2={H} stroke="var(--ink)" strokeWidth={2} />}
      {elsewhere.map((e) => (
        <rect key={e.sectionId} x={x(e.share) - 4} y={H / 2 - 1} width={8} height={8} fill="none" stroke="var(--ochre)" strokeWidth={1.5} />
      ))}
      {decides !== null && (
        <ellipse cx={x(decides)} cy={H / 2 + 3} rx={7} ry={5} fill={off ? 'var(--ochre)' : 'var(--bubble)'} stroke="var(--ink)" />
      )}
    </svg>
  )
}
