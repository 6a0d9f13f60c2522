import { describe } from '../compare/describe'
import { compare, minus, rationalOf, type Rational } from '../grades/rational'
import { AgreementError } from './weighted-kappa'

export interface Agreement {
  n: number
  /** Shares 0..1; null without scripts. */
  exact: number | null
  within: number | null
  /** Mean of a − b, its standard deviation (n − 1), and mean ± 1.96 sd; null where undefined. */
  mean: number | null
  sd: number | null
  limits: [number, number] | null
}

const size = (x: Rational) => (compare(x, rationalOf(0)) < 0 ? minus(rationalOf(0), x) : x)

/**
 * How two markers agree on the same scripts, in marks. Shares are counted on decimals, so that 0.3 − 0.2 lies within 0.1.
 * @throws AgreementError for lists of different length
 * Source: limits of agreement, Bland and Altman 1986, Lancet 327:307–310.
 */
export function agreement(a: readonly number[], b: readonly number[], { tolerance }: { tolerance: number }): Agreement {
  if (a.length !== b.length) throw new AgreementError('Both markers must have marked the same scripts.')
  const n = a.length
  if (n === 0) return { n, exact: null, within: null, mean: null, sd: null, limits: null }
  const allowed = rationalOf(tolerance)
  const apart = a.map((x, i) => minus(rationalOf(x), rationalOf(b[i]!)))
  const { mean, sd } = describe(a.map((x, i) => x - b[i]!))
  return {
    n,
    exact: a.filter((x, i) => x === b[i]).length / n,
    within: apart.filter((d) => compare(size(d), allowed) <= 0).length / n,
    mean,
    sd,
    limits: mean === null || sd === null ? null : [mean - 1.96 * sd, mean + 1.96 * sd],
  }
}
