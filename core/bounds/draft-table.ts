import { gradeCounts } from '../grades/check-boundaries'
import type { Boundary, CourseResult } from '../grades/course'
import { compareResults, type Mover } from '../rescale/compare-results'
import { regrade } from './boundaries'

export interface DraftTable {
  drafts: { name: string; counts: ReturnType<typeof gradeCounts> }[]
  /** Who moves from one draft to another, each pair once, the earlier one first. */
  pairs: { from: string; to: string; movers: Mover[]; up: number; down: number }[]
}

/** Named results of the same students side by side: counts and shares of each, and who moves between any two. */
export function resultsSideBySide(named: readonly { name: string; result: CourseResult }[]): DraftTable {
  return {
    drafts: named.map(({ name, result }) => ({ name, counts: gradeCounts(result) })),
    pairs: named.flatMap((a, i) =>
      named.slice(i + 1).map((b) => {
        const { movers, up, down } = compareResults(a.result, b.result)
        return { from: a.name, to: b.name, movers, up, down }
      }),
    ),
  }
}

/**
 * Drafts of boundaries side by side on the same percents.
 * @param drafts names are theirs alone
 */
export const draftTable = (result: CourseResult, drafts: readonly { name: string; boundaries: Boundary[] }[]): DraftTable =>
  resultsSideBySide(drafts.map(({ name, boundaries }) => ({ name, result: regrade(result, boundaries) })))
