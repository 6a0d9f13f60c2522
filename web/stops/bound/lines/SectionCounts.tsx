import { memo } from 'react'
import { Rows } from '../../../parts/Rows'
import { fixed, share } from '../../../parts/format'
import type { BoundFigures } from '../figures'
import { shareAbove } from './share-above'
import styles from '../bound.module.css'

const ROW = 31
const BAR = 90

interface Props extends Pick<BoundFigures, 'sections'> {
  /** The line above which the share is told. */
  chosen: number
  /** That share of everyone, to be held against. */
  everyone: number | null
}

/** How many of each section have each grade. */
export const SectionCounts = memo(function SectionCounts({ sections, chosen, everyone }: Props) {
  return (
    <Rows
      items={sections}
      height={ROW}
      columns={(sections[0]?.counts.length ?? 0) + 3}
      row={(s, row) => {
        const above = shareAbove(s.counts, s.finals, chosen)
        return (
          <tr key={s.id} {...row}>
            <td>{s.name}</td>
            {s.counts.map((c) => (
              <td key={c.grade} className="number">
                {c.count}
              </td>
            ))}
            <td className="number soft">{fixed(s.mean)}</td>
            <td className={`number ${styles.share}`}>
              <svg width={BAR} height="12" aria-hidden>
                <rect width={BAR * (above ?? 0)} height="12" fill="var(--step-4)" />
                {everyone !== null && (
                  <line x1={BAR * everyone} x2={BAR * everyone} y1="0" y2="12" stroke="var(--ink)" strokeDasharray="2 1" />
                )}
              </svg>{' '}
              <span className="figure">{share(above)}</span>
            </td>
          </tr>
        )
      }}
    />
  )
})
