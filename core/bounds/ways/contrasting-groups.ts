import { resampledInterval } from '../../compare/resampled'
import { logistic } from './logistic'
import { noLine, type Way } from './way'

/** A line where people who know the work judge as many able as not. */
export interface ByContrastingGroups {
  way: 'contrastingGroups'
  grade: string
  /** One for each student and person who judged: could they do what the grade asks for? */
  judgements: readonly { studentId: string; able: boolean }[]
}

interface Judged {
  percent: number
  able: number
}

type Crossing = { from: number; same: [number, number] | null; curve: { intercept: number; slope: number } | null } | { why: string }

/** Where judgements cross from no to yes. */
function crossing(judged: readonly Judged[]): Crossing {
  const [yes, no] = [judged.filter((j) => j.able), judged.filter((j) => !j.able)]
  if (yes.length === 0 || no.length === 0)
    return { why: judged.length === 0 ? 'Nobody with a final percent was judged.' : 'All were judged the same.' }
  const least = Math.min(...yes.map((j) => j.percent))
  const most = Math.max(...no.map((j) => j.percent))
  // Percents part the two: any line between them is as good as the other.
  if (least >= most) return { from: (least + most) / 2, same: least > most ? [most, least] : null, curve: null }
  const curve = logistic(
    judged.map((j) => j.percent),
    judged.map((j) => j.able),
  )
  if (!curve || curve.slope <= 0) return { why: 'Those judged able do not stand higher than the others.' }
  const from = -curve.intercept / curve.slope
  const all = judged.map((j) => j.percent)
  // Read off where nobody was judged it would be a guess.
  if (from < Math.min(...all) || from > Math.max(...all))
    return {
      why: `Between ${Math.min(...all)} and ${Math.max(...all)}, where students were judged, there is no percent at which as many could as could not.`,
    }
  return { from, same: null, curve }
}

export const byContrastingGroups: Way<ByContrastingGroups> = {
  suggest({ students }, { grade, judgements }, draws) {
    const percentOf = new Map(students.map((s) => [s.studentId, s.adjusted]))
    // Several judgements of one student are drawn together.
    const byStudent = new Map<string, Judged[]>()
    for (const { studentId, able } of judgements) {
      const percent = percentOf.get(studentId) ?? null
      if (percent === null) continue
      const own = byStudent.get(studentId)
      const judged = { percent, able: Number(able) }
      if (own) own.push(judged)
      else byStudent.set(studentId, [judged])
    }
    const each = [...byStudent.values()]
    const n = each.flat().length
    const found = crossing(each.flat())
    if ('why' in found) return [noLine(grade, n, found.why)]
    const band = resampledInterval(
      each.length,
      (drawn) => {
        const sample = crossing(Array.from(drawn, (i) => each[i]!).flat())
        return 'why' in sample ? null : sample.from
      },
      draws,
    )
    return [{ grade, ...found, why: null, band, n }]
  },
}
