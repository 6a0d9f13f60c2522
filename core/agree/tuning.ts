import { group } from 'd3-array'
import tQuantile from '@stdlib/stats-base-dists-t-quantile'
import { describe, meanOf } from '../compare/describe'
import type { Picks } from '../scales/rubric'
import { agreement, type Agreement } from './agreement'
import { intraclassCorrelation, type Icc } from './intraclass'
import { weightedKappa, type Kappa } from './weighted-kappa'

/** A script with the mark that was agreed on it before anybody else read it. */
export interface ExemplarMark {
  exemplarId: string
  picks: Picks
  mark: number
}

/** What a marker gave an exemplar. */
export interface ExemplarReading extends ExemplarMark {
  markerId: string
}

export interface Tuning {
  markerId: string
  /** Exemplars read. */
  read: number
  /** Mean of own mark − agreed mark, + generous, in marks; null before the first reading. */
  lean: number | null
  /** 95% t interval of it; null with fewer than two readings or where all differ alike. */
  interval: [number, number] | null
  agreement: Agreement
  /** Quadratic weighted kappa over the levels of all criteria. */
  kappa: Kappa
  /** Criterion id → mean of own − agreed points, + generous; where points are taken off, more of them is severe. */
  criteria: Record<string, number>
}

/**
 * How far each marker lies from what was agreed on the exemplars.
 * @param takesOff whether a criterion's points are taken off
 * @param bandOf place of the level that points lie in, from 0; null where a criterion has no levels, which then has no part in kappa
 * @returns a row for each marker that read at least one, and the intraclass correlations of those who read them all
 */
export function tuningOf(
  agreed: readonly ExemplarMark[],
  readings: readonly ExemplarReading[],
  {
    tolerance,
    takesOff = () => false,
    bandOf,
  }: {
    tolerance: number
    takesOff?: (criterionId: string) => boolean
    bandOf: (criterionId: string, points: number) => number | null
  },
): { markers: Tuning[]; together: Icc[] } {
  const agreedOn = new Map(agreed.map((a) => [a.exemplarId, a]))
  const byMarker = group(
    readings.filter((r) => agreedOn.has(r.exemplarId)),
    (r) => r.markerId,
  )
  const markers = [...byMarker].map(([markerId, own]): Tuning => {
    const marks = own.map((r) => r.mark)
    const theirs = own.map((r) => agreedOn.get(r.exemplarId)!.mark)
    const { n, mean, sd } = describe(marks.map((m, i) => m - theirs[i]!))
    const half = n > 1 && sd !== null && sd > 0 ? (tQuantile(0.975, n - 1) * sd) / Math.sqrt(n) : null
    const [bands, agreedBands]: [number[], number[]] = [[], []]
    const apart = new Map<string, number[]>()
    for (const r of own) {
      const { picks } = agreedOn.get(r.exemplarId)!
      for (const [criterionId, points] of Object.entries(r.picks)) {
        const wanted = picks[criterionId]
        if (wanted === undefined) continue
        apart.set(criterionId, [...(apart.get(criterionId) ?? []), takesOff(criterionId) ? wanted - points : points - wanted])
        const [a, b] = [bandOf(criterionId, points), bandOf(criterionId, wanted)]
        if (a === null || b === null) continue
        bands.push(a)
        agreedBands.push(b)
      }
    }
    return {
      markerId,
      read: own.length,
      lean: mean,
      interval: mean === null || half === null ? null : [mean - half, mean + half],
      agreement: agreement(marks, theirs, { tolerance }),
      kappa: weightedKappa(bands, agreedBands, { weights: 'quadratic' }),
      criteria: Object.fromEntries([...apart].map(([id, list]) => [id, meanOf(list)!])),
    }
  })
  const complete = [...byMarker.values()].filter((own) => own.length === agreed.length)
  const rows = agreed.map((a) => complete.map((own) => own.find((r) => r.exemplarId === a.exemplarId)!.mark))
  return { markers, together: intraclassCorrelation(rows) }
}
