import type { TablePlan } from '#contract'
import type { QueueRow } from './queue-rows'

interface LookedOver {
  /** Open, and within their tolerance: settled in bulk. */
  within: QueueRow[]
  /** The lowest reading, or mark that was typed beside one: of one assessment in its marks, else in percent. */
  lowest: number
  /** Whether a mark was typed beside any. */
  typed: boolean
  /** The most readings of one script, at least two. */
  most: number
}

/** What all rows of the queue come to, of which there may be tens of thousands. */
export function lookedOver(rows: readonly QueueRow[], assessmentId: string | null, { assessments }: TablePlan): LookedOver {
  const scale = new Map(assessments.map((a) => [a.id, assessmentId === null ? 100 / a.outOf : 1]))
  const found: LookedOver = { within: [], lowest: Infinity, typed: false, most: 2 }
  for (const row of rows) {
    if (!row.over && row.agreed === null) found.within.push(row)
    found.lowest = Math.min(found.lowest, row.lowest * scale.get(row.assessmentId)!)
    found.typed ||= row.typed !== null
    found.most = Math.max(found.most, row.read)
  }
  return found
}
