import { counted, fixed, signed } from '../../../parts/format'
import type { LeansByCriterion } from '../criteria/figures'
import type { ComparedMarker, ComparedMarkers } from './figures'

/** What a marker’s lean is made of, most first; of criteria whose lean is not chance. */
export function leaningCriteria(marker: ComparedMarker, leans: LeansByCriterion | undefined): string[] {
  const own = leans?.leans[marker.id]
  if (!own || marker.lean === null) return []
  const side = Math.sign(marker.lean)
  return own
    .flatMap((l, k) => {
      const { title } = leans.criteria[k]!
      if (!l || l.effect === null || l.interval === null || Math.sign(l.effect) !== side) return []
      return l.interval[0] > 0 || l.interval[1] < 0 ? [{ title, size: Math.abs(l.effect) }] : []
    })
    .sort((a, b) => b.size - a.size)
    .map((l) => l.title)
}

/** Of how unevenly a marker marks: the interval, or why nothing can be said. */
export function spreadInWords({ spread, interval, why, pairs }: ComparedMarker['fit']): string {
  if (why === 'too few read twice') return `Too few of their scripts were read twice: ${counted(pairs, 'pair')} of readings, 20 are needed.`
  if (why === 'cannot be told apart')
    return 'Their spread cannot be told from the others’: that takes three markers (or another odd number) who share scripts in a ring.'
  if (spread === null) return 'The others do not differ at all.'
  return `${fixed(spread)} times the others’${interval ? `, 95% ${fixed(interval[0])} to ${fixed(interval[1])}` : ''}.`
}

/** A marker’s own line in words: for the close-up, and to hand over. */
export function lineOf(marker: ComparedMarker, { title, unit, tolerance }: ComparedMarkers, criteria: readonly string[]): string {
  const { n, shared, lean, interval, fit } = marker
  if (lean === null) return `${title}: ${counted(n, 'script')} read, none of which anybody else has read. Nothing can be told.`
  const word = Math.abs(lean) <= tolerance ? 'level with the others' : lean > 0 ? 'generous' : 'severe'
  return [
    `${title}: on ${counted(shared, 'script')} that others read too, ${signed(lean)} ${unit} against them`,
    interval ? ` (95% ${signed(interval[0])} to ${signed(interval[1])})` : '',
    `: ${word}.`,
    criteria.length > 0 && Math.abs(lean) > tolerance ? ` Most of it in ${criteria.slice(0, 2).join(', ')}.` : '',
    fit.erratic
      ? ` The differences go both ways: ${fixed(fit.spread)} times as far as the others’ (95% ${fixed(fit.interval![0])} to ${fixed(fit.interval![1])}).`
      : '',
  ].join('')
}
