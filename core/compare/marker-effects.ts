import { solveLower } from './positive-definite'
import type { ReadingSet } from './reading-set'
import { sumsOf, type Sums } from './reading-sums'
import { fitted, type Fit } from './restricted-likelihood'

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
  const { linked, groupOf } = groupsOf(readings, sums)
  const read = Array.from(sums.perMarker)
  const fit = fitted(sums)
  const all = readings.criteria ?? 1
  // The first criterion is the zero of the others until here; the mean of all takes its place.
  const shift = fit ? mean([0, ...fit.b.slice(sums.active.length)], all) : 0
  const means = new Float64Array(readings.markers).fill(NaN)
  sums.active.forEach((marker, i) => (means[marker] = (fit?.b[i] ?? NaN) + shift))
  const middle = linked.map((group) => mean(group.map((m) => means[m]!)))
  const columnsIn = (group: readonly number[]) => group.map((m) => sums.place[m]!)
  const contrasts = linked.map((group) => fit && contrastsOf(fit, columnsIn(group)))
  const markers = read.map((n, marker): MarkerEffect => {
    const group = groupOf[marker]!
    const contrast = group < 0 || linked[group]!.length < 2 ? null : contrasts[group]!
    if (!fit || !contrast) return { n, effect: null, se: null, interval: null, group }
    const effect = means[marker]! - middle[group]!
    const se = Math.sqrt(fit.variance * contrast(sums.place[marker]!))
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

/** Markers who share scripts, directly or through others. */
function groupsOf({ script, marker, markers }: ReadingSet, { n, perScript, active }: Sums): { linked: number[][]; groupOf: Int32Array } {
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
  return { linked, groupOf: of }
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
