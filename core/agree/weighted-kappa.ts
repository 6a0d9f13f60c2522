/** Agreement on ordered bands beyond what chance would give. */
export interface Kappa {
  /** 1 is perfect, 0 what chance gives; null where it is not defined. */
  kappa: number | null
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
 * Source: Cohen 1960, Educational and Psychological Measurement 20:37–46; Cohen 1968, Psychological Bulletin 70:213–220.
 */
export function weightedKappa(
  a: readonly number[],
  b: readonly number[],
  { weights }: { weights: 'quadratic' | 'linear' | 'none' },
): Kappa {
  if (a.length !== b.length) throw new AgreementError('Both markers must have put the same scripts into bands.')
  if (![...a, ...b].every((x) => Number.isInteger(x) && x >= 0)) throw new AgreementError('Bands are whole numbers from 0.')
  const n = a.length
  const bands = Math.max(-1, ...a, ...b) + 1
  const none = (reason: string): Kappa => ({ kappa: null, reason, n, observed: 0, expected: 0 })
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
  return { kappa: 1 - disagreement / chance, reason: null, n, observed, expected }
}
