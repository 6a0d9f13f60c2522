/** Agreement on ordered bands beyond what chance would give. */
export interface Kappa {
  /** 1 is perfect, 0 what chance gives; null where it is not defined. */
  kappa: number | null
  /** 95% interval for many scripts, within −1..1; null where kappa is, or where all agree and there is nothing to reckon with. */
  interval: [number, number] | null
  /** Why there is none. */
  reason: string | null
  n: number
  /** Weighted share of agreement, 0..1, as observed and as chance would give. */
  observed: number
  expected: number
}

/** A pair of lists that cannot be compared. */
export class AgreementError extends Error {
  override name = 'AgreementError'
}

/**
 * Weighted kappa of two markers who put the same scripts into ordered bands.
 * @param a band of each script by the first marker, whole numbers from 0
 * @param b the same scripts by the second
 * @param weights what a disagreement costs: the square of the distance, the distance, or the same for any
 * @throws AgreementError for lists of different length or bands that are no whole numbers
 * Source: Cohen 1960, Educational and Psychological Measurement 20:37–46; Cohen 1968, Psychological Bulletin 70:213–220;
 * the interval's standard error: Fleiss, Cohen and Everitt 1969, Psychological Bulletin 72:323–327.
 */
export function weightedKappa(
  a: readonly number[],
  b: readonly number[],
  { weights }: { weights: 'quadratic' | 'linear' | 'none' },
): Kappa {
  if (a.length !== b.length) throw new AgreementError('Both markers must have put the same scripts into bands.')
  if (![...a, ...b].every((x) => Number.isInteger(x) && x >= 0)) throw new AgreementError('Bands are whole numbers from 0.')
  const n = a.length
  const bands = [a, b].flat().reduce((most, band) => Math.max(most, band), -1) + 1
  const none = (reason: string): Kappa => ({ kappa: null, interval: null, reason, n, observed: 0, expected: 0 })
  if (n === 0) return none('no script was put into a band by both')
  const [rows, columns] = [new Float64Array(bands), new Float64Array(bands)]
  const cost = (i: number, j: number) => (weights === 'none' ? Number(i !== j) : weights === 'linear' ? Math.abs(i - j) : (i - j) * (i - j))
  let disagreement = 0
  for (let i = 0; i < n; i++) {
    rows[a[i]!]!++
    columns[b[i]!]!++
    disagreement += cost(a[i]!, b[i]!)
  }
  let chance = 0
  for (let i = 0; i < bands; i++) for (let j = 0; j < bands; j++) chance += (rows[i]! * columns[j]! * cost(i, j)) / n
  const most = bands > 1 ? cost(0, bands - 1) : 1
  const observed = 1 - disagreement / n / most
  const expected = 1 - chance / n / most
  if (chance === 0) return { ...none('both put every script into one band: there is no variation'), observed, expected }
  const kappa = 1 - disagreement / chance
  // Costs on 0..1 stand for one minus the weight of agreement, which gives the same variance.
  const share = (i: number, j: number) => cost(i, j) / most
  const meanOf = (list: Float64Array, costOf: (k: number) => number) => list.reduce((s, m, k) => s + (m / n) * costOf(k), 0)
  const rowMean = Array.from(rows, (_, i) => meanOf(columns, (j) => share(i, j)))
  const columnMean = Array.from(columns, (_, j) => meanOf(rows, (i) => share(i, j)))
  const left = 1 - kappa
  let spread = 0
  for (let i = 0; i < n; i++) {
    const [r, c] = [a[i]!, b[i]!]
    spread += (1 - share(r, c) - (2 - rowMean[r]! - columnMean[c]!) * left) ** 2 / n
  }
  const variance = (spread - (kappa - expected * left) ** 2) / (n * (1 - expected) ** 2)
  const half = 1.96 * Math.sqrt(Math.max(0, variance))
  return {
    kappa,
    interval: disagreement === 0 ? null : [Math.max(-1, kappa - half), Math.min(1, kappa + half)],
    reason: null,
    n,
    observed,
    expected,
  }
}
