import type { Figure } from '../../course/figures'
import type { QueueRow } from './queue-rows'

/** Decimals of a mark to which a lean is kept with a decision. */
const KEPT = 3

/**
 * How each reader of a script leans against the others, as it goes into a decision; null where that cannot be told of one of them, or
 * where they belong to groups that share no script.
 */
export function leansOf(compared: Figure<'markers'> | undefined, row: QueueRow | undefined): Record<string, number> | null {
  if (!compared || !row || row.readings.length === 0) return null
  const own = row.readings.map((r) => compared.markers.find((m) => m.id === r.markerId))
  if (own.some((m) => !m || m.lean === null || m.group !== own[0]!.group)) return null
  return Object.fromEntries(own.map((m) => [m!.id, Number(m!.lean!.toFixed(KEPT))]))
}
