import { alphaInterval, intraclassCorrelation, krippendorffAlpha, weightedKappa } from '#core/agree'
import { gradeAt } from '#core/bounds'
import { quantile } from '#core/compare'
import type { CourseState } from '../../course/state'
import { ofWhat } from '../../parts/of-what'
import { readingsOfWhat, readTwice } from '../../parts/readings-of'

export interface Reliability {
  /** Scripts that two or more read, and pairs of readings of one script. */
  scripts: number
  pairs: number
  /** By how much two readings of a script differ in the middle of cases. */
  middle: number | null
  /** Share of pairs within the tolerance of their assessment. */
  within: number | null
  alpha: number | null
  alphaInterval: [low: number, high: number] | null
  /** One marker’s mark against any other’s, of scripts read equally often; null where too few are. */
  icc: number | null
  iccInterval: [low: number, high: number] | null
  /** Quadratic weighted kappa on the grade that each reading alone would be. */
  kappa: number | null
}

const SEED = 20260907
/** Samples for the interval: fewer where each of them is large. */
const drawsFor = (scripts: number): number => Math.max(100, Math.min(1000, Math.round(200_000 / Math.max(1, scripts))))

/** How well readings of the same script agree. */
export function reliabilityOf(state: CourseState, wanted: string | null): Reliability {
  const { table, tried, current } = state
  const what = ofWhat(state, wanted)
  const readings = readingsOfWhat(state, what)
  const twice = readTwice(readings)
  const units = twice.map((own) => own.map((i) => readings.mark[i]!))
  const differences: number[] = []
  let within = 0
  for (const own of twice) {
    const assessment = table.assessments[readings.script[own[0]!]! % tried.cells.width]!
    const tolerance = what.unit === 'marks' ? assessment.tolerance : (100 * assessment.tolerance) / assessment.outOf
    for (let i = 1; i < own.length; i++)
      for (let j = 0; j < i; j++) {
        const apart = Math.abs(readings.mark[own[i]!]! - readings.mark[own[j]!]!)
        differences.push(apart)
        if (apart <= tolerance + 1e-9) within++
      }
  }
  const { alpha } = krippendorffAlpha(units, 'interval')
  const often = commonest(units.map((u) => u.length))
  const icc = intraclassCorrelation(units.filter((u) => u.length === often)).find((i) => i.form === '(1,1)')!
  const { boundaries, rounding } = current.result
  const order = [...boundaries].sort((a, b) => a.from - b.from).map((b) => b.grade)
  const band = (mark: number) => Math.max(0, order.indexOf(gradeAt((100 * mark) / what.top, boundaries, rounding) ?? ''))
  return {
    scripts: twice.length,
    pairs: differences.length,
    middle: quantile(
      differences.sort((a, b) => a - b),
      0.5,
    ),
    within: differences.length > 0 ? within / differences.length : null,
    alpha,
    alphaInterval: alpha === null ? null : alphaInterval(units, 'interval', { seed: SEED, draws: drawsFor(units.length) }),
    icc: icc.value,
    iccInterval: icc.interval,
    kappa: weightedKappa(
      units.map((u) => band(u[0]!)),
      units.map((u) => band(u[1]!)),
      { weights: 'quadratic' },
    ).kappa,
  }
}

function commonest(numbers: readonly number[]): number {
  const count = new Map<number, number>()
  for (const n of numbers) count.set(n, (count.get(n) ?? 0) + 1)
  return [...count].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 0
}
