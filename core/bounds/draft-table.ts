import { gradeCounts } from '../grades/check-boundaries'
import type { Boundary, CourseResult } from '../grades/course'
import { compareResults, type Mover } from '../rescale/compare-results'
import { regrade } from './boundaries'

export interface DraftTable {
  drafts: { name: string; counts: ReturnType<typeof gradeCounts> }[]
  /** Who moves from one draft to another, each pair once, the earlier one first. */
  pairs: { from: string; to: string; movers: Mover[]; up: number; down: number }[]
}

/**
 * Drafts of boundaries side by side on the same percents: counts and shares of each, and who moves between any two.
 * @param drafts names are theirs alone
 */
export function draftTable(result: CourseResult, drafts: readonly { name: string; boundaries: Boundary[] }[]): DraftTable {
  const graded = drafts.map(({ name, boundaries }) => ({ name, result: regrade(result, boundaries) }))
  return {
    drafts: graded.map((d) => ({ name: d.name, counts: gradeCounts(d.result) })),
    pairs: graded.flatMap((a, i) =>
      graded.slice(i + 1).map((b) => {
        const { movers, up, down } = compareResults(a.result, b.result)
        return { from: a.name, to: b.name, movers, up, down }
      }),
    ),
  }
}
