import { group } from 'd3-array'
import tQuantile from '@stdlib/stats-base-dists-t-quantile'
import { sum } from './describe'

export interface WithOtherWork {
  groupId: string
  mark: number
  /** What the same student reached elsewhere, in percent or marks. */
  elsewhere: number
}

export interface ExpectedGroup {
  groupId: string
  n: number
  mean: number
  elsewhere: number
  /** Its mean had its students done as the whole did elsewhere. */
  adjusted: number
  /** Distance of that from the plain mean of all adjusted means; + where it marked higher than its students' other work tells. */
  lean: number
  /** Standard error of the lean, and its 95% interval. */
  se: number
  interval: [low: number, high: number]
  /** Distance of its adjusted mean from the others', each weighed by its n, with its 95% interval. */
  againstOthers: { difference: number; interval: [low: number, high: number] }
}

export interface ExpectedFromOtherWork {
  groups: ExpectedGroup[]
  /** Marks for one more elsewhere, alike in all groups. */
  slope: number
  /** Residual degrees of freedom. */
  df: number
}

const mean = (values: readonly number[]) => sum(values) / values.length

/**
 * Whether a group's marks are high because its students are strong: analysis of covariance with one slope for all groups.
 * @returns null with fewer than two groups, no spread of other work inside them, or no degree of freedom left
 * Source: Snedecor & Cochran 1989, Statistical Methods, 8th ed., chapter 18.
 */
export function expectedFromOtherWork(rows: readonly WithOtherWork[]): ExpectedFromOtherWork | null {
  const groups = [...group(rows, (r) => r.groupId)].map(([groupId, own]) => ({
    groupId,
    own,
    n: own.length,
    mean: mean(own.map((r) => r.mark)),
    elsewhere: mean(own.map((r) => r.elsewhere)),
  }))
  const df = rows.length - groups.length - 1
  if (groups.length < 2 || df < 1) return null
  let [sxx, sxy, syy] = [0, 0, 0]
  for (const g of groups)
    for (const r of g.own) {
      const [x, y] = [r.elsewhere - g.elsewhere, r.mark - g.mean]
      sxx += x * x
      sxy += x * y
      syy += y * y
    }
  if (!(sxx > 0)) return null
  const slope = sxy / sxx
  const variance = Math.max(0, syy - slope * sxy) / df
  const grand = mean(rows.map((r) => r.elsewhere))
  const adjusted = groups.map((g) => g.mean - slope * (g.elsewhere - grand))
  const middle = mean(adjusted)
  const t = tQuantile(0.975, df)
  /** A contrast of adjusted means, and its standard error. */
  const contrast = (weights: readonly number[]) => {
    const ofMeans = sum(weights.map((a, h) => (a * a) / groups[h]!.n))
    const ofSlope = sum(weights.map((a, h) => a * groups[h]!.elsewhere)) ** 2 / sxx
    return { value: sum(weights.map((a, h) => a * adjusted[h]!)), se: Math.sqrt(variance * (ofMeans + ofSlope)) }
  }
  return {
    slope,
    df,
    groups: groups.map(({ own: _, ...g }, i) => {
      const lean = adjusted[i]! - middle
      const { se } = contrast(groups.map((_, h) => (h === i ? 1 : 0) - 1 / groups.length))
      const others = contrast(groups.map((o, h) => (h === i ? 1 : -o.n / (rows.length - g.n))))
      return {
        ...g,
        adjusted: adjusted[i]!,
        lean,
        se,
        interval: [lean - t * se, lean + t * se],
        againstOthers: { difference: others.value, interval: [others.value - t * others.se, others.value + t * others.se] },
      }
    }),
  }
}
