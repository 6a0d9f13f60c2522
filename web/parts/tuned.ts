import { tuningOf } from '#core/agree'
import type { Exemplars } from '#contract'
import { levelAt } from './judge/judged'

type Reading = { exemplarId: string; markerId: string; picks: Record<string, number>; mark: number }

/** How far markers lie from what was agreed, with the figures of their agreement. */
export function tuned({ exemplars, assessment, standard }: Exemplars, readings: Reading[]) {
  const agreed = exemplars.flatMap((x) => (x.agreed ? [{ exemplarId: x.id, picks: x.agreed.picks, mark: x.agreed.mark }] : []))
  const penalties = new Set(standard?.kind === 'rubric' ? standard.body.criteria.filter((c) => c.penalty).map((c) => c.id) : [])
  return tuningOf(agreed, readings, {
    tolerance: assessment.tolerance,
    takesOff: (id) => penalties.has(id),
    bandOf: (id, points) => levelAt(standard, id, points),
  })
}
