import type { MarkerEffects } from './marker-effects'
import { notBelowZero } from './not-below-zero'
import type { ReadingSet } from './reading-set'
import { resampledIntervals, type Draws } from './resampled'

export interface MarkerFit {
  /** Pairs of readings of one script, one of them theirs. */
  pairs: number
  /** How far their readings lie from what script, marker and criterion would give; sd, in marks. Null where `why` says why. */
  sd: number | null
  /** That sd against the others', 1 = like them. */
  spread: number | null
  /** 95%. */
  interval: [low: number, high: number] | null
  /** Their readings scatter more than the others', and not by chance. No rescaling corrects that. */
  erratic: boolean
  /** Why nothing can be said. */
  why: 'too few read twice' | 'cannot be told apart' | null
}

/** Nearer than so many marks, two readings are the same: means are worked out, and the last places are not theirs. */
const ROUNDING = 1e-6
/** Pairs below which nothing is said, and the spread from which on it is erratic. */
const LEAST_PAIRS = 20
const ERRATIC = 1.5
/** Marks have three decimals: a variance below this is rounding. */
const NONE = 1e-7
const DRAWS: Draws = { seed: 1, draws: 400 }

/**
 * Own spread of markers: from pairs of readings of one script alone, as a script that was read once says nothing of it. The squared
 * difference of two readings, each without its marker's effect, is expected to be the sum of both markers' variances; least squares over
 * all pairs, those of a script with k readings weighing 1/(k − 1), and no variance below 0. Where the pairs of linked markers have no cycle
 * of an odd number of markers (two markers, a star, a chain), variances can be moved from one to the other, and nothing is said.
 * @param effects of the same readings
 * @param draws samples of scripts that the intervals come from
 * Source: Grubbs 1948, Journal of the American Statistical Association 43:243–264; percentile bootstrap (Efron & Tibshirani 1993).
 */
export function markerFit(readings: ReadingSet, { means, groups }: MarkerEffects, draws: Draws = DRAWS): MarkerFit[] {
  const pairs = pairsOf(readings, means)
  const found = Array.from(pairs.perMarker, (n): MarkerFit => ({
    pairs: n,
    sd: null,
    spread: null,
    interval: null,
    erratic: false,
    why: n < LEAST_PAIRS ? 'too few read twice' : 'cannot be told apart',
  }))
  for (const group of groups) {
    if (group.every((m) => pairs.perMarker[m]! < LEAST_PAIRS) || isBipartite(pairs, group)) continue
    const within = pairsWithin(pairs, group)
    const spreadsOf = (times?: Int32Array) => {
      const variances = variancesOf(within, group.length, times)
      return variances && { variances, spreads: spreads(variances, within.perMarker) }
    }
    const whole = spreadsOf()
    if (!whole) continue
    const times = new Int32Array(within.scripts)
    const drawn = (places: Int32Array) => {
      times.fill(0)
      for (const s of places) times[s]!++
      return spreadsOf(times)?.spreads ?? group.map(() => null)
    }
    const intervals = resampledIntervals(within.scripts, group.length, drawn, draws)
    group.forEach((marker, i) => {
      if (pairs.perMarker[marker]! < LEAST_PAIRS) return
      const [spread, interval] = [whole.spreads[i]!, intervals[i]!]
      const erratic = spread !== null && spread >= ERRATIC && interval !== null && interval[0] > 1
      found[marker] = { pairs: pairs.perMarker[marker]!, sd: Math.sqrt(whole.variances[i]!), spread, interval, erratic, why: null }
    })
  }
  return found
}

/** Pairs of readings of one script (and one criterion), in columns. */
interface Pairs {
  script: number[]
  a: number[]
  b: number[]
  /** The squared difference without what both markers give in the middle, and what it weighs. */
  square: number[]
  weight: number[]
  /** By marker. */
  perMarker: Int32Array
}

function pairsOf({ script, marker, mark, criterion, criteria = 1, markers }: ReadingSet, means: Float64Array): Pairs {
  const pairs: Pairs = { script: [], a: [], b: [], square: [], weight: [], perMarker: new Int32Array(markers) }
  const by = new Map<number, number[]>()
  for (let r = 0; r < mark.length; r++) {
    const key = script[r]! * criteria + (criterion ? criterion[r]! : 0)
    const own = by.get(key)
    if (own) own.push(r)
    else by.set(key, [r])
  }
  for (const own of by.values())
    for (let i = 1; i < own.length; i++)
      for (let j = 0; j < i; j++) {
        const [p, q] = [own[i]!, own[j]!]
        const [a, b] = [marker[p]!, marker[q]!]
        if (a === b) continue
        pairs.script.push(script[p]!)
        pairs.a.push(a)
        pairs.b.push(b)
        const apart = mark[p]! - means[a]! - (mark[q]! - means[b]!)
        pairs.square.push(Math.abs(apart) < ROUNDING ? 0 : apart ** 2)
        pairs.weight.push(1 / (own.length - 1))
        pairs.perMarker[a]!++
        pairs.perMarker[b]!++
      }
  return pairs
}

/** The pairs of one group, its markers by their places in it and its scripts from 0 on. */
function pairsWithin(pairs: Pairs, group: readonly number[]): Pairs & { scripts: number } {
  const place = new Map(group.map((m, i) => [m, i]))
  const scripts = new Map<number, number>()
  const within = { script: [], a: [], b: [], square: [], weight: [], perMarker: new Int32Array(group.length) } as Pairs
  pairs.a.forEach((marker, p) => {
    const a = place.get(marker)
    if (a === undefined) return
    const b = place.get(pairs.b[p]!)!
    const script = scripts.get(pairs.script[p]!) ?? scripts.size
    scripts.set(pairs.script[p]!, script)
    within.script.push(script)
    within.a.push(a)
    within.b.push(b)
    within.square.push(pairs.square[p]!)
    within.weight.push(pairs.weight[p]!)
    within.perMarker[a]!++
    within.perMarker[b]!++
  })
  return { ...within, scripts: scripts.size }
}

/** Each marker's variance by least squares; null where the pairs don't tell them apart. @param times how often each script counts */
function variancesOf({ script, a, b, square, weight }: Pairs, size: number, times?: Int32Array): Float64Array | null {
  const left = new Float64Array(size * size)
  const right = new Float64Array(size)
  for (let p = 0; p < a.length; p++) {
    const w = times ? weight[p]! * times[script[p]!]! : weight[p]!
    if (w === 0) continue
    const [i, j] = [a[p]!, b[p]!]
    left[i * size + i]! += w
    left[j * size + j]! += w
    left[i * size + j]! += w
    left[j * size + i]! += w
    right[i]! += w * square[p]!
    right[j]! += w * square[p]!
  }
  return notBelowZero(left, right)
}

/** Each sd against that of the others, whose variances weigh by their pairs; null where the others have none. */
function spreads(variances: Float64Array, pairs: Int32Array): (number | null)[] {
  const all = pairs.reduce((s, n) => s + n, 0)
  const sum = variances.reduce((s, v, i) => s + v * pairs[i]!, 0)
  return Array.from(variances, (own, i) => {
    const others = (sum - own * pairs[i]!) / (all - pairs[i]!)
    return others > NONE ? Math.sqrt(own / others) : null
  })
}

/** Whether linked markers fall into two sides that share scripts with the other side only. */
function isBipartite({ a, b }: Pairs, group: readonly number[]): boolean {
  const side = new Map([[group[0]!, 0]])
  const next = new Map<number, Set<number>>()
  const note = (m: number, other: number) => next.set(m, (next.get(m) ?? new Set()).add(other))
  a.forEach((m, p) => {
    note(m, b[p]!)
    note(b[p]!, m)
  })
  for (const [marker, own] of side)
    for (const other of next.get(marker) ?? []) {
      if (side.get(other) === own) return false
      if (!side.has(other)) side.set(other, 1 - own)
    }
  return true
}
