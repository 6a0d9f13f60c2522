/** How single results become a standing. */
export type OutcomeRule =
  | { kind: 'latest' }
  | { kind: 'highest' }
  | { kind: 'mean' }
  /** Recent results weigh more: s = α·x + (1 − α)·s, from the first on. */
  | { kind: 'recent'; alpha: number }
  /** So many results at or above the level that counts as reached, of the last so many or of all. */
  | { kind: 'times'; times: number; of: number | null }

/** One result on an outcome. */
export interface Evidence {
  /** From 1, the lowest. */
  level: number
  /** The day it is of, as ISO 8601; null where none is set, which comes before all others. */
  day: string | null
}

export interface OutcomeStanding {
  /** What the rule makes of the results; null where there are not enough of them. */
  value: number | null
  /** The level that stands: the highest that the value comes up to. */
  level: number | null
  reached: boolean
  /** How many of those looked at are at or above the level that counts, and how many were looked at; for that rule alone. */
  counted: { met: number; of: number } | null
  /** How many results there are. */
  results: number
  /** The levels of the results, the oldest first. */
  history: number[]
}

/** Sums of doubles that come this near a level have come up to it. */
const SAME = 1e-9

/**
 * The standing on one outcome. By `times` it is the level that was come up to as often as asked for: the k-th highest of those looked at.
 * @param evidence in any order; results of one day stay in the order given
 * @param reachedFrom the lowest level that counts as reached
 */
export function outcomeStanding(evidence: readonly Evidence[], rule: OutcomeRule, reachedFrom: number): OutcomeStanding {
  const history = evidence
    .toSorted((a, b) => ((a.day ?? '') < (b.day ?? '') ? -1 : (a.day ?? '') > (b.day ?? '') ? 1 : 0))
    .map((e) => e.level)
  const window = rule.kind === 'times' && rule.of !== null ? history.slice(-rule.of) : history
  const value = valueOf(window, rule)
  return {
    value,
    level: value === null ? null : Math.floor(value + SAME),
    reached: value !== null && value + SAME >= reachedFrom,
    counted: rule.kind === 'times' ? { met: window.filter((x) => x >= reachedFrom).length, of: window.length } : null,
    results: history.length,
    history,
  }
}

function valueOf(levels: readonly number[], rule: OutcomeRule): number | null {
  if (levels.length === 0) return null
  switch (rule.kind) {
    case 'latest':
      return levels.at(-1)!
    case 'highest':
      return Math.max(...levels)
    case 'mean':
      return levels.reduce((s, x) => s + x, 0) / levels.length
    case 'recent':
      return levels.slice(1).reduce((s, x) => rule.alpha * x + (1 - rule.alpha) * s, levels[0]!)
    case 'times':
      return levels.toSorted((a, b) => b - a)[rule.times - 1] ?? null
  }
}
