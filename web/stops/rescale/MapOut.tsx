import { actsOnMarks, adjuster, type Adjustment } from '#core/rescale'
import { useTaking } from '../../parts/take-out/useTaking'
import { takeOutCsv } from '../../parts/take-out/table-out'

/** So many rows the map of an adjustment has at most. */
const ROWS = 400

/** The map of an adjustment as a file: each mark and what it becomes, to look up or to bring in again. */
export function MapOut({ adjustment: a, title }: { adjustment: Adjustment; title: string }) {
  const { taking, problem } = useTaking()
  const { method } = a
  if (!actsOnMarks(method)) return null
  const rows = () => {
    const step = [0.5, 1, 5].find((s) => a.outOf / s <= ROWS) ?? a.outOf / ROWS
    const marks = Array.from({ length: Math.floor(a.outOf / step) + 1 }, (_, i) => Number((i * step).toFixed(4)))
    const change = adjuster({ ...a, method }, marks)
    return marks.map((x) => [x, change(x)])
  }
  return (
    <>
      <button
        className="quiet-button"
        aria-label={`Map of ${title} as CSV`}
        onClick={taking(() => takeOutCsv({ title: `${title} map`, header: ['mark', 'becomes'], rows: rows() }))}
      >
        Map as CSV
      </button>
      {problem}
    </>
  )
}
