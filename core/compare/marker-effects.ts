import { cholesky, logDeterminant, solve, solveLower } from './positive-definite'
import { smallestOf } from './smallest-of'

/** Readings as columns: whose, of which script, and the mark; with a criterion each where marks are points of one. */
export interface ReadingSet {
  script: ArrayLike<number>
  marker: ArrayLike<number>
  mark: ArrayLike<number>
  criterion?: ArrayLike<number>
  /** How many of each there are; places go from 0 to below it. */
  scripts: number
  markers: number
  criteria?: number
}

export interface MarkerEffect {
  /** Readings. */
  n: number
  /** + generous, − severe, against those they can be compared with; null where that is nobody. */
  effect: number | null
  se: number | null
  /** 95%, normal. */
  interval: [low: number, high: number] | null
  /** Which group of linked markers they belong to. */
  group: number
}

export interface MarkerEffects {
  /** Plain mean of the markers' means. */
  mu: number
  /** Spread of scripts, and of readings about their script and marker; sd, in marks. Null where no script was read twice. */
  sdScript: number | null
  sdError: number | null
  markers: MarkerEffect[]
  /** What each marker gives to a script in the middle, in marks; NaN for who read nothing. */
  means: Float64Array
  /** + where points come easily; sums to 0. Empty without criteria. */
  criteria: number[]
  /** Markers who share scripts, directly or through others, the largest group first. Those of two groups cannot be compared fairly. */
  groups: number[][]
  /** The predicted effect of each script; 0 for one that nobody read. */
  scriptEffects: Float64Array
}

/** A share of the variance that leaves nothing to the rest is not looked at. */
const MOST_SHARE = 1 - 1e-7

/**
 * Who leans, and by how much: y = μ + θ_script + β_marker (+ γ_criterion) + ε, with θ and ε normal, β and γ fixed and summing to 0.
 * Both variances by restricted maximum likelihood. Everything that grows with the readings is done in one pass; what is looked for
 * then costs as much as there are markers, cubed.
 * @returns null where nothing was read
 * Source: Searle, Casella & McCulloch 1992, Variance Components, chapter 6; predictions by Henderson's best linear unbiased.
 */
export function markerEffects(readings: ReadingSet): MarkerEffects | null {
  const sums = sumsOf(readings)
  if (sums.n === 0) return null
  const { linked, of } = groupsOf(readings, sums)
  const read = Array.from(sums.perMarker)
  const fit = fitted(sums)
  const all = readings.criteria ?? 1
  // The first criterion is the zero of the others until here; the mean of all takes its place.
  const shift = fit ? mean([0, ...fit.b.slice(sums.active.length)], all) : 0
  const means = new Float64Array(readings.markers).fill(NaN)
  sums.active.forEach((marker, i) => (means[marker] = (fit?.b[i] ?? NaN) + shift))
  const middle = linked.map((group) => mean(group.map((m) => means[m]!)))
  const contrasts =
    fit &&
    linked.map((group) =>
      contrastsOf(
        fit,
        group.map((m) => sums.place[m]!),
      ),
    )
  const markers = read.map((n, marker): MarkerEffect => {
    const group = of[marker]!
    const alone = group < 0 || linked[group]!.length < 2
    if (alone || !fit || !contrasts) return { n, effect: null, se: null, interval: null, group }
    const effect = means[marker]! - middle[group]!
    const se = Math.sqrt(fit.variance * contrasts[group]!(sums.place[marker]!))
    return { n, effect, se, interval: [effect - 1.96 * se, effect + 1.96 * se], group }
  })
  return {
    mu: mean(sums.active.map((m) => means[m]!)),
    sdScript: fit && fit.ratio !== null ? Math.sqrt(fit.ratio * fit.variance) : null,
    sdError: fit && fit.ratio !== null ? Math.sqrt(fit.variance) : null,
    markers,
    means,
    criteria: readings.criteria ? [0, ...(fit?.b.slice(sums.active.length) ?? [])].map((c) => c - shift) : [],
    groups: linked,
    scriptEffects: predicted(readings, sums, fit),
  }
}

const mean = (values: readonly number[], n = values.length): number => values.reduce((s, x) => s + x, 0) / n

/** What is known of the readings once they were gone through. */
interface Sums {
  n: number
  perMarker: Int32Array
  perScript: Int32Array
  /** Markers who read anything, and the column of each; −1 for who did not. */
  active: number[]
  place: Int32Array
  /** Columns: a marker each, then the criteria but the first. */
  width: number
  /** XᵀX, its lower triangle alone, and Xᵀy. */
  xx: Float64Array
  xy: Float64Array
  yy: number
  /** By how many readings a script has: how many such scripts, and over them Σ x·xᵀ (its lower triangle), Σ x·s and Σ s² with x and s its sums of X and y. */
  bySize: Map<number, { scripts: number; xx: Float64Array; xs: Float64Array; ss: number }>
}

function sumsOf({ script, marker, mark, criterion, scripts, markers, criteria = 1 }: ReadingSet): Sums {
  const n = mark.length
  const perMarker = new Int32Array(markers)
  const perScript = new Int32Array(scripts)
  for (let r = 0; r < n; r++) {
    perMarker[marker[r]!]!++
    perScript[script[r]!]!++
  }
  const active = [...perMarker.keys()].filter((m) => perMarker[m]! > 0)
  const place = new Int32Array(markers).fill(-1)
  active.forEach((m, i) => (place[m] = i))
  const width = active.length + criteria - 1
  // Readings by their script, so that each is summed at a time.
  const from = new Int32Array(scripts + 1)
  for (let s = 0; s < scripts; s++) from[s + 1] = from[s]! + perScript[s]!
  const next = from.slice(0, scripts)
  const at = new Int32Array(n)
  for (let r = 0; r < n; r++) at[next[script[r]!]!++] = r

  const xx = new Float64Array(width * width)
  const xy = new Float64Array(width)
  const bySize: Sums['bySize'] = new Map()
  const x = new Float64Array(width)
  const touched: number[] = []
  const touch = (column: number) => {
    if (x[column] === 0) touched.push(column)
    x[column]!++
  }
  let yy = 0
  for (let s = 0; s < scripts; s++) {
    const size = perScript[s]!
    if (size === 0) continue
    let y = 0
    for (let i = from[s]!; i < from[s + 1]!; i++) {
      const r = at[i]!
      const value = mark[r]!
      const m = place[marker[r]!]!
      y += value
      yy += value * value
      touch(m)
      xx[m * width + m]!++
      xy[m]! += value
      const k = criterion ? criterion[r]! : 0
      if (k === 0) continue
      const c = active.length + k - 1
      touch(c)
      xx[c * width + c]!++
      xx[c * width + m]!++
      xy[c]! += value
    }
    let of = bySize.get(size)
    if (!of) bySize.set(size, (of = { scripts: 0, xx: new Float64Array(width * width), xs: new Float64Array(width), ss: 0 }))
    of.scripts++
    of.ss += y * y
    for (const a of touched) {
      of.xs[a]! += x[a]! * y
      for (const b of touched) if (b <= a) of.xx[a * width + b]! += x[a]! * x[b]!
    }
    for (const a of touched) x[a] = 0
    touched.length = 0
  }
  return { n, perMarker, perScript, active, place, width, xx, xy, yy, bySize }
}

/** Markers who share scripts, directly or through others. */
function groupsOf({ script, marker, markers }: ReadingSet, { n, perScript, active }: Sums): { linked: number[][]; of: Int32Array } {
  const parent = Int32Array.from({ length: markers }, (_, m) => m)
  const root = (m: number): number => {
    let at = m
    while (parent[at] !== at) at = parent[at] = parent[parent[at]!]!
    return at
  }
  const first = new Int32Array(perScript.length).fill(-1)
  for (let r = 0; r < n; r++) {
    const s = script[r]!
    if (first[s]! < 0) first[s] = marker[r]!
    else parent[root(marker[r]!)] = root(first[s]!)
  }
  const by = new Map<number, number[]>()
  for (const m of active) {
    const own = by.get(root(m))
    if (own) own.push(m)
    else by.set(root(m), [m])
  }
  const linked = [...by.values()].sort((a, b) => b.length - a.length)
  const of = new Int32Array(markers).fill(-1)
  linked.forEach((group, i) => group.forEach((m) => (of[m] = i)))
  return { linked, of }
}

interface Fit {
  /** Variance of scripts over that of the rest; null where the readings do not tell them apart. */
  ratio: number | null
  /** Of the rest. */
  variance: number
  /** Means of the markers, then the criteria against the first. */
  b: Float64Array
  l: Float64Array
}

/** The fixed effects and what is left, where scripts vary so many times as much as the rest. */
function solvedAt(ratio: number, { n, width, xx, xy, yy, bySize }: Sums): (Fit & { deviance: number }) | null {
  const a = xx.slice()
  const right = xy.slice()
  let [rest, logV] = [yy, 0]
  for (const [size, of] of bySize) {
    const c = ratio / (1 + size * ratio)
    logV += of.scripts * Math.log1p(size * ratio)
    rest -= c * of.ss
    for (let i = 0; i < width; i++) for (let at = i * width; at <= i * width + i; at++) a[at]! -= c * of.xx[at]!
    for (let i = 0; i < width; i++) right[i]! -= c * of.xs[i]!
  }
  const l = cholesky(a, width)
  if (!l) return null
  const b = solve(l, width, right)
  for (let i = 0; i < width; i++) rest -= b[i]! * right[i]!
  const variance = Math.max(rest, 0) / (n - width)
  return { ratio, variance, b, l, deviance: (n - width) * Math.log(Math.max(variance, Number.MIN_VALUE)) + logV + logDeterminant(l, width) }
}

function fitted(sums: Sums): Fit | null {
  const { n, width, bySize } = sums
  const repeated = [...bySize.keys()].some((size) => size > 1)
  if (n <= width || !repeated) {
    const { deviance: _, ...fit } = solvedAt(0, sums) ?? { deviance: 0 }
    return 'b' in fit ? { ...(fit as Fit), ratio: null } : null
  }
  // By its share of the whole, which lies between 0 and 1.
  const at = (share: number) => solvedAt(share / (1 - share), sums)
  const best = smallestOf((share) => at(share)?.deviance ?? Infinity, 0, MOST_SHARE)
  const inside = at(best)
  // A valley far from nothing is deeper than nothing.
  if (inside && best > 0.05) return inside
  const none = at(0)
  return none && (!inside || none.deviance <= inside.deviance) ? none : inside
}

/** Variance factors of each marker's mean against the plain mean of those of their group: |L⁻¹(e − 1/g)|². */
function contrastsOf({ l, b }: Fit, group: readonly number[]): (marker: number) => number {
  const size = b.length
  const even = new Float64Array(size)
  for (const column of group) even[column] = 1 / group.length
  const middle = solveLower(l, size, even)
  const unit = new Float64Array(size)
  return (marker) => {
    unit[marker] = 1
    const own = solveLower(l, size, unit, marker)
    unit[marker] = 0
    return own.reduce((sum, x, i) => sum + (x - middle[i]!) ** 2, 0)
  }
}

/** Best linear unbiased prediction of each script's effect. */
function predicted(
  { script, marker, mark, criterion, scripts }: ReadingSet,
  { n, perScript, active, place }: Sums,
  fit: Fit | null,
): Float64Array {
  const effects = new Float64Array(scripts)
  if (!fit?.ratio) return effects
  for (let r = 0; r < n; r++) {
    const k = criterion ? criterion[r]! : 0
    effects[script[r]!]! += mark[r]! - fit.b[place[marker[r]!]!]! - (k > 0 ? fit.b[active.length + k - 1]! : 0)
  }
  for (let s = 0; s < scripts; s++) if (perScript[s]! > 0) effects[s]! *= fit.ratio / (1 + perScript[s]! * fit.ratio)
  return effects
}
