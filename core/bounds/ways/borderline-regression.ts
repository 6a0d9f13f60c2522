import { resampledInterval } from '../../compare/resampled'
import { noLine, type Way } from './way'

/** A line where those stand whom an overall judgement puts on the border. */
export interface ByBorderlineRegression {
  way: 'borderlineRegression'
  grade: string
  /** Overall judgements as figures: the better, the higher. */
  judgements: readonly { studentId: string; judgement: number }[]
  /** The judgement of who is just there. */
  borderline: number
}

/** The line of least squares of percent on judgement; null where all judgements are alike. */
function regression(rows: readonly (readonly [judgement: number, percent: number])[]): { intercept: number; slope: number } | null {
  const n = rows.length
  const [mx, my] = [0, 1].map((k) => rows.reduce((s, r) => s + r[k]!, 0) / n) as [number, number]
  let [sxx, sxy] = [0, 0]
  for (const [x, y] of rows) {
    sxx += (x - mx) ** 2
    sxy += (x - mx) * (y - my)
  }
  if (!(sxx > 1e-12)) return null
  const slope = sxy / sxx
  return { intercept: my - slope * mx, slope }
}

export const byBorderlineRegression: Way<ByBorderlineRegression> = {
  suggest({ students }, { grade, judgements, borderline }, draws) {
    const percentOf = new Map(students.map((s) => [s.studentId, s.adjusted]))
    const rows = judgements.flatMap(({ studentId, judgement }) => {
      const percent = percentOf.get(studentId) ?? null
      return percent === null ? [] : [[judgement, percent] as const]
    })
    const n = rows.length
    if (n < 3) return [noLine(grade, n, 'Fewer than three students with a final percent were judged.')]
    const curve = regression(rows)
    if (!curve) return [noLine(grade, n, 'All were judged the same.')]
    if (curve.slope <= 0) return [noLine(grade, n, 'Those judged better do not stand higher.')]
    const band = resampledInterval(
      n,
      (drawn) => {
        const sample = regression(Array.from(drawn, (i) => rows[i]!))
        return sample && sample.slope > 0 ? sample.intercept + sample.slope * borderline : null
      },
      draws,
    )
    return [{ grade, from: curve.intercept + curve.slope * borderline, why: null, same: null, band, n, curve }]
  },
}
