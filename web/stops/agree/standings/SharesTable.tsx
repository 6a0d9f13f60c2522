import type { LevelCounts } from '#core/outcomes'
import { useDecidedCourse } from '../../../course/course'
import { share } from '../../../parts/format'
import { Rows } from '../../../parts/Rows'
import { useEarlierShares } from './useEarlierShares'
import styles from './standings.module.css'
import levelRulerStyles from '../../../parts/level-ruler.module.css'

const ROW = 28

/** The share that reached it, of all who were seen or not; null where nobody was seen. */
export const reachedOf = ({ reached, none, perLevel }: LevelCounts): number | null => {
  const seen = perLevel.reduce((n, x) => n + x, 0)
  return seen === 0 ? null : reached / (seen + none)
}

interface Props {
  outcomeId: string
  levels: number
  /** Its level from which it counts as reached, in words. */
  from: string
  shares: { all: LevelCounts; sections: { id: string; counts: LevelCounts }[] }
}

/** Who reaches an outcome, section by section, beside the year before where it was followed then. */
export function SharesTable({ outcomeId, levels, from, shares }: Props) {
  const { table } = useDecidedCourse()
  const earlier = useEarlierShares(outcomeId, levels)
  const all = reachedOf(shares.all)
  const nameOf = new Map(table.sections.map((s) => [s.id, s.name]))
  const before = new Map(earlier?.sections.map((s) => [s.name, s.counts]))
  const rows = shares.sections
    .map(({ id, counts }) => ({ name: nameOf.get(id) ?? '', part: reachedOf(counts) }))
    .map((s) => ({ ...s, then: before.get(s.name) }))
    .toSorted((a, b) => (b.part ?? -1) - (a.part ?? -1))
  return (
    <table className="grid">
      <thead>
        <tr>
          <th>section</th>
          <th className="number">{from}</th>
          <th aria-hidden />
          {earlier && <th className="number text-wrap">{earlier.term}</th>}
        </tr>
      </thead>
      <tbody>
        {earlier && (
          <tr className="fw-semibold">
            <td>everyone</td>
            <td className="number">{share(all)}</td>
            <td>{all !== null && <Place part={all} all={all} before={reachedOf(earlier.all)} />}</td>
            <td className="number">{share(reachedOf(earlier.all))}</td>
          </tr>
        )}
        <Rows
          items={rows}
          height={ROW}
          columns={earlier ? 4 : 3}
          row={({ name, part, then }, props) => (
            <tr key={name} {...props}>
              <td>{name}</td>
              <td className="number fw-semibold">{share(part)}</td>
              <td>{part !== null && <Place part={part} all={all} before={then ? reachedOf(then) : null} />}</td>
              {earlier && <td className="number soft">{then ? share(reachedOf(then)) : ''}</td>}
            </tr>
          )}
        />
      </tbody>
    </table>
  )
}

/** A share on a line from none to all, with everyone’s as a tick and the year before as a ring. */
function Place({ part, all, before }: { part: number; all: number | null; before: number | null }) {
  const at = (x: number) => 4 + x * 72
  return (
    <svg width={80} height={16} aria-hidden>
      <line x1={4} x2={76} y1={8} y2={8} className={levelRulerStyles.rulerLine} />
      {all !== null && <line x1={at(all)} x2={at(all)} y1={2} y2={14} className={styles.rulerAll} />}
      {before !== null && <circle cx={at(before)} cy={8} r="4.5" className={styles.rulerThen} />}
      <circle cx={at(part)} cy={8} r="4" className={levelRulerStyles.rulerDot} />
    </svg>
  )
}
