import chisquareCdf from '@stdlib/stats-base-dists-chisquare-cdf'
import tCdf from '@stdlib/stats-base-dists-t-cdf'
import tQuantile from '@stdlib/stats-base-dists-t-quantile'
import { describe, sum, type Description } from './describe'

export interface GroupComparison {
  id: string
  n: number
  mean: number | null
  /** Mean of the group minus the mean of all the others together; null without both. */
  difference: number | null
  /** Welch's 95% interval of the difference; null where either side has under two values or neither varies. */
  interval: [number, number] | null
  p: number | null
  /** Holm-adjusted over the groups. */
  pHolm: number | null
  /** Hedges' g with the pooled sd. */
  g: number | null
  /** Cliff's delta: how much oftener a value of the group is above one of the others than below. */
  delta: number | null
}

export interface GroupsComparison {
  groups: GroupComparison[]
  /** Kruskal–Wallis over all groups, corrected for ties; null under two groups or without variation. */
  kruskal: { h: number; df: number; p: number } | null
}

/**
 * Each group against all the others together, and all groups at once.
 * Welch 1947; Holm 1979; Hedges 1981 (J = 1 − 3/(4·df − 1)); Cliff 1993; Kruskal & Wallis 1952.
 */
export function compareGroups(groups: { id: string; values: readonly number[] }[]): GroupsComparison {
  const { ranks, ties } = rankAll(groups.map((g) => g.values))
  const all = groups.flatMap((g) => g.values)
  const described = groups.map((g) => describe(g.values))
  const others = describeOthers(
    groups.map((g) => g.values),
    described,
  )
  const compared = groups.map(({ id, values }, i): GroupComparison => {
    const a = described[i]!
    const b = others[i]!
    const welch = welchOf(a, b)
    const difference = a.mean !== null && b.mean !== null ? a.mean - b.mean : null
    const df = a.n + b.n - 2
    const pooled = a.sd !== null && b.sd !== null ? Math.sqrt(((a.n - 1) * a.sd ** 2 + (b.n - 1) * b.sd ** 2) / df) : 0
    return {
      id,
      n: a.n,
      mean: a.mean,
      difference,
      interval: welch && difference !== null ? [difference - welch.margin, difference + welch.margin] : null,
      p: welch?.p ?? null,
      pHolm: null,
      g: difference !== null && pooled > 0 ? (difference / pooled) * (1 - 3 / (4 * df - 1)) : null,
      delta: difference === null ? null : deltaFromRanks(ranks[i]!, a.n, b.n, values),
    }
  })
  holm(compared)
  return { groups: compared, kruskal: kruskalWallis(ranks, ties, all.length) }
}

type Sample = Pick<Description, 'n' | 'mean' | 'sd'>

/**
 * For each group all the others together, from sums about the mean of everything: hundreds of groups must not each have
 * thousands of values gone through again.
 */
function describeOthers(groups: readonly (readonly number[])[], described: readonly Description[]): Sample[] {
  const n = sum(described.map((d) => d.n))
  const middle = n === 0 ? 0 : sum(described.map((d) => (d.mean ?? 0) * d.n)) / n
  const first = groups.map((values) => sum(values.map((x) => x - middle)))
  const second = groups.map((values) => sum(values.map((x) => (x - middle) ** 2)))
  const [s1, s2] = [sum(first), sum(second)]
  const low = extremesOfOthers(
    described.map((d) => d.min ?? Infinity),
    Math.min,
    Infinity,
  )
  const high = extremesOfOthers(
    described.map((d) => d.max ?? -Infinity),
    Math.max,
    -Infinity,
  )
  return described.map((own, i): Sample => {
    const m = n - own.n
    if (m === 0) return { n: 0, mean: null, sd: null }
    const [r1, r2] = [s1 - first[i]!, s2 - second[i]!]
    // Values all alike can leave a speck of rounding behind, which is no variation.
    const spread = low[i] === high[i] ? 0 : Math.sqrt(Math.max(0, r2 - r1 ** 2 / m) / (m - 1))
    return { n: m, mean: middle + r1 / m, sd: m < 2 ? null : spread }
  })
}

/** For each place the extreme of all the other places. */
function extremesOfOthers(values: readonly number[], pick: (a: number, b: number) => number, none: number): number[] {
  const before = [none]
  for (const v of values) before.push(pick(before.at(-1)!, v))
  let after = none
  const found = new Array<number>(values.length)
  for (let i = values.length - 1; i >= 0; i--) {
    found[i] = pick(before[i]!, after)
    after = pick(after, values[i]!)
  }
  return found
}

function welchOf(a: Sample, b: Sample): { margin: number; p: number } | null {
  if (a.sd === null || b.sd === null) return null
  const va = a.sd ** 2 / a.n
  const vb = b.sd ** 2 / b.n
  if (va + vb === 0) return null
  const se = Math.sqrt(va + vb)
  const df = (va + vb) ** 2 / (va ** 2 / (a.n - 1) + vb ** 2 / (b.n - 1))
  const t = (a.mean! - b.mean!) / se
  return { margin: tQuantile(0.975, df) * se, p: 2 * tCdf(-Math.abs(t), df) }
}

function holm(list: GroupComparison[]): void {
  const ordered = list.filter((g) => g.p !== null).sort((x, y) => x.p! - y.p!)
  let floor = 0
  ordered.forEach((g, i) => {
    floor = Math.max(floor, Math.min(1, (ordered.length - i) * g.p!))
    g.pHolm = floor
  })
}

/** Mid-ranks of every group's values among all of them, and the sizes of the ties. */
function rankAll(groups: (readonly number[])[]): { ranks: number[][]; ties: number[] } {
  const flat = groups.flatMap((values, g) => values.map((value, i) => ({ value, g, i }))).sort((x, y) => x.value - y.value)
  const ranks = groups.map((g) => new Array<number>(g.length))
  const ties: number[] = []
  for (let start = 0; start < flat.length;) {
    let end = start
    while (end < flat.length && flat[end]!.value === flat[start]!.value) end++
    for (let k = start; k < end; k++) ranks[flat[k]!.g]![flat[k]!.i] = (start + 1 + end) / 2
    ties.push(end - start)
    start = end
  }
  return { ranks, ties }
}

/** 2U/(mn) − 1, with U from the rank sum. */
function deltaFromRanks(ranks: number[], m: number, n: number, values: readonly number[]): number {
  const u = sum(ranks) - (values.length * (values.length + 1)) / 2
  return (2 * u) / (m * n) - 1
}

function kruskalWallis(ranks: number[][], ties: number[], n: number): GroupsComparison['kruskal'] {
  const filled = ranks.filter((r) => r.length > 0)
  const correction = 1 - sum(ties.map((t) => t ** 3 - t)) / (n ** 3 - n)
  if (filled.length < 2 || !(correction > 0)) return null
  const h = ((12 / (n * (n + 1))) * sum(filled.map((r) => sum(r) ** 2 / r.length)) - 3 * (n + 1)) / correction
  const df = filled.length - 1
  return { h, df, p: 1 - chisquareCdf(h, df) }
}
