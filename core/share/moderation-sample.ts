import { group } from 'd3-array'
import { seeded } from './seeded'

export interface SampleRow {
  scriptId: string
  sectionId: string
  mark: number
  fails: boolean
  /** Distance of the mark from the nearest boundary, in marks; null where there is none. */
  distance: number | null
}

export interface SampleRule {
  /** Share of all scripts, 0..1. */
  share: number
  /** At least so many. */
  least: number
  /** Every script within so many marks of a boundary. */
  zone: number
  seed: number
}

/** The least that marks are told apart by, where the readings do not say how far one is off; of the maximum. */
const USUAL_ERROR = 0.02
const STEP = 0.5

/**
 * Marks to a line within which a script is read again, where nothing else is said: as far as one reading is off, but never more than
 * an eighth of the way between two lines, so that about three of four scripts are outside of it.
 * @param lines boundaries as marks @param error sd of a reading, in marks; null where none is known
 */
export function usualZone(outOf: number, lines: readonly number[], error: number | null): number {
  const sorted = [...new Set(lines)].sort((a, b) => a - b)
  const narrowest = Math.min(...sorted.slice(1).map((l, i) => l - sorted[i]!), Infinity)
  const zone = Math.min(error ?? USUAL_ERROR * outOf, narrowest / 8)
  return zone >= STEP ? Math.floor(zone / STEP) * STEP : Math.round(zone * 10) / 10
}

/**
 * Scripts for second reading: the larger of `least` and the share, always with every fail and every script within the
 * zone of a boundary, the rest spread over sections in proportion and over the mark range. The same seed gives the same.
 * @returns ids in the order of rows, each with why it is in
 */
export function moderationSample(
  rows: readonly SampleRow[],
  { share, least, zone, seed }: SampleRule,
): { scriptId: string; why: 'fails' | 'near a boundary' | 'drawn' }[] {
  const draw = seeded(seed)
  const why = new Map<string, 'fails' | 'near a boundary' | 'drawn'>()
  for (const r of rows) {
    if (r.fails) why.set(r.scriptId, 'fails')
    else if (r.distance !== null && r.distance <= zone) why.set(r.scriptId, 'near a boundary')
  }
  const size = Math.min(rows.length, Math.max(least, Math.ceil(share * rows.length - 1e-9), why.size))
  const sections = group(rows, (r) => r.sectionId)
  const lists = draw.shuffled([...sections.keys()]).map((id) => {
    const all = sections.get(id)!
    return { all, taken: all.filter((r) => why.has(r.scriptId)).length }
  })
  for (let n = why.size; n < size; n++) {
    // The section of which least is in takes the next one: from where its marks have the widest gap in the sample.
    const open = lists.filter((l) => l.taken < l.all.length)
    const next = open.reduce((a, b) => (b.taken / b.all.length < a.taken / a.all.length ? b : a))
    why.set(widest(next.all, why, draw.below).scriptId, 'drawn')
    next.taken++
  }
  return rows.flatMap((r) => (why.has(r.scriptId) ? [{ scriptId: r.scriptId, why: why.get(r.scriptId)! }] : []))
}

/** The row farthest, in rank of mark, from those that are in; of equally far ones a drawn one. */
function widest(all: readonly SampleRow[], taken: ReadonlyMap<string, unknown>, below: (n: number) => number): SampleRow {
  const ranked = [...all].sort((a, b) => a.mark - b.mark)
  const at = ranked.flatMap((r, i) => (taken.has(r.scriptId) ? [i] : []))
  let far = -1
  let found: SampleRow[] = []
  ranked.forEach((r, i) => {
    if (taken.has(r.scriptId)) return
    const distance = at.length === 0 ? 0 : Math.min(...at.map((t) => Math.abs(t - i)))
    if (distance > far) [far, found] = [distance, [r]]
    else if (distance === far) found.push(r)
  })
  return found[below(found.length)]!
}
