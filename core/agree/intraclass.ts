import fQuantile from '@stdlib/stats-base-dists-f-quantile'
import { AgreementError } from './weighted-kappa'

export type IccForm = '(1,1)' | '(2,1)' | '(3,1)' | '(1,k)' | '(2,k)' | '(3,k)'

export interface Icc {
  form: IccForm
  /** Null where it is not defined. */
  value: number | null
  /** 95% interval; null where the value is, or where there is no disagreement to reckon with. */
  interval: [number, number] | null
  reason: string | null
}

const ALPHA = 0.05

/**
 * Intraclass correlations of a complete table: rows are scripts, columns markers. (1,·): any markers; (2,·): these markers as
 * a sample, absolute agreement; (3,·): these markers alone, consistency; (·,1): one marker's mark; (·,k): the mean of all k.
 * @returns the six forms with F-based 95% intervals
 * @throws AgreementError for a table that is not complete
 * Source: Shrout and Fleiss 1979, Psychological Bulletin 86:420–428; McGraw and Wong 1996, Psychological Methods 1:30–46.
 */
export function intraclassCorrelation(matrix: readonly (readonly number[])[]): Icc[] {
  const n = matrix.length
  const k = matrix[0]?.length ?? 0
  if (matrix.some((row) => row.length !== k || !row.every(Number.isFinite)))
    throw new AgreementError('Every marker must have marked every script.')
  const forms: IccForm[] = ['(1,1)', '(2,1)', '(3,1)', '(1,k)', '(2,k)', '(3,k)']
  const none = (reason: string) => forms.map((form): Icc => ({ form, value: null, interval: null, reason }))
  if (n < 2 || k < 2) return none('it takes at least two scripts and two markers')

  const mean = (list: readonly number[]) => list.reduce((s, x) => s + x, 0) / list.length
  const grand = mean(matrix.flat())
  const sum = (f: (x: number, i: number, j: number) => number) =>
    matrix.reduce((s, row, i) => s + row.reduce((t, x, j) => t + f(x, i, j), 0), 0)
  const rowMeans = matrix.map(mean)
  const columnMeans = Array.from({ length: k }, (_, j) => mean(matrix.map((row) => row[j]!)))
  const total = sum((x) => (x - grand) ** 2)
  const between = k * rowMeans.reduce((s, m) => s + (m - grand) ** 2, 0)
  const markers = n * columnMeans.reduce((s, m) => s + (m - grand) ** 2, 0)
  const bms = between / (n - 1)
  const wms = (total - between) / (n * (k - 1))
  const jms = markers / (k - 1)
  const ems = Math.max(0, total - between - markers) / ((n - 1) * (k - 1))
  if (total === 0) return none('all marks are the same: there is no variation')

  const icc = (form: IccForm, value: number, interval: [number, number] | null): Icc => ({ form, value, interval, reason: null })
  const f = (p: number, d1: number, d2: number) => fQuantile(p, d1, d2)
  const p = 1 - ALPHA / 2
  const [df, dfe, dfw] = [n - 1, (n - 1) * (k - 1), n * (k - 1)]
  /** Bounds from an F ratio: of one mark, and of the mean of all. */
  const bounds = (ratio: number, d2: number): { one: [number, number]; all: [number, number] } | null => {
    if (!Number.isFinite(ratio)) return null
    const [low, high] = [ratio / f(p, df, d2), ratio * f(p, d2, df)]
    return { one: [(low - 1) / (low + k - 1), (high - 1) / (high + k - 1)], all: [1 - 1 / low, 1 - 1 / high] }
  }
  const first = bounds(bms / wms, dfw)
  const third = bounds(bms / ems, dfe)
  const two = (bms - ems) / (bms + (k - 1) * ems + (k * (jms - ems)) / n)
  const second = absolute(two, { n, k, bms, jms, ems, dfe, df }, (q, d1, d2) => f(q, d1, d2), p)
  return [
    icc('(1,1)', (bms - wms) / (bms + (k - 1) * wms), first?.one ?? null),
    icc('(2,1)', two, second),
    icc('(3,1)', (bms - ems) / (bms + (k - 1) * ems), third?.one ?? null),
    icc('(1,k)', (bms - wms) / bms, first?.all ?? null),
    icc('(2,k)', (bms - ems) / (bms + (jms - ems) / n), second && [stepUp(second[0], k), stepUp(second[1], k)]),
    icc('(3,k)', (bms - ems) / bms, third?.all ?? null),
  ]
}

/** Spearman–Brown: from one mark to the mean of k. */
const stepUp = (r: number, k: number) => (k * r) / (1 + (k - 1) * r)

/** Interval of (2,1), with Satterthwaite's degrees of freedom (Shrout and Fleiss 1979, p. 424). */
function absolute(
  r: number,
  m: { n: number; k: number; bms: number; jms: number; ems: number; dfe: number; df: number },
  f: (p: number, d1: number, d2: number) => number,
  p: number,
): [number, number] | null {
  const { n, k, bms, jms, ems, dfe, df } = m
  if (ems === 0) return null
  const fj = jms / ems
  const a = k * r * fj + n * (1 + (k - 1) * r) - k * r
  const v = (dfe * a * a) / (df * k * k * r * r * fj * fj + (n * (1 + (k - 1) * r) - k * r) ** 2)
  const [upper, lower] = [f(p, df, v), f(p, v, df)]
  const low = (n * (bms - upper * ems)) / (upper * (k * jms + (k * n - k - n) * ems) + n * bms)
  const high = (n * (lower * bms - ems)) / (k * jms + (k * n - k - n) * ems + n * lower * bms)
  return [low, high]
}
