import type { ResultChange } from '#core/rescale'

/** What withdrawing a decision would do. */
export interface Withdrawal {
  decisionId: string
  /** Null where that can’t be told before it is done. */
  change: ResultChange | null
  /** Why it can’t be withdrawn. */
  problem: string | null
}
