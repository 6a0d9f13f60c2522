import { max } from 'd3-array'
import { histogram } from '#core/compare'
import { numeral } from '../../parts/format'
import { tickStep } from '../../parts/ticks'

/** How many marks lie in each step before a rescaling and after it, as rows of a table. */
export function beforeAndAfter(before: readonly number[], after: readonly number[], outOf: number): string[][] {
  const width = tickStep(outOf) / 2
  const to = Math.max(outOf, max(after) ?? 0)
  const [was, is] = [before, after].map((values) => histogram(values, { from: 0, to, width }).bins)
  return was!.map((b, i) => [`${numeral(b.from)} to ${numeral(b.to)}`, String(b.count), String(is![i]!.count)])
}
