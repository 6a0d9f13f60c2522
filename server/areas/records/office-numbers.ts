import type { RefusedResult, SentResult } from '#contract'
import type { HandOverRow } from './queries'

interface OnRoll {
  id: string
  name: string
  number: string | null
}

/**
 * The numbers by which the records office knows students: the one it took a result under last, else the one on the roll.
 * @param handOvers all of the course, the latest first
 */
export function officeNumbers(roll: readonly OnRoll[], handOvers: readonly Pick<HandOverRow, 'sent' | 'receipt' | 'refused'>[]) {
  const nameOf = new Map(roll.map((s) => [s.id, s.name]))
  const onRoll = new Map(roll.map((s) => [s.id, s.number ?? '']))
  const holder = new Map(roll.flatMap((s) => (s.number ? [[s.number, s.id] as const] : [])))
  const taken = new Map<string, string>()
  const takenFor = new Map<string, string>()
  for (const row of handOvers.toReversed()) {
    if (row.receipt === null) continue
    const refused = new Set((JSON.parse(row.refused) as RefusedResult[]).map((r) => r.studentId))
    for (const { studentId, number } of JSON.parse(row.sent) as SentResult[]) {
      if (refused.has(studentId)) continue
      taken.set(studentId, number)
      takenFor.set(number, studentId)
    }
  }
  const of = (studentId: string): string => taken.get(studentId) ?? onRoll.get(studentId) ?? ''
  return {
    of,
    /** Why a number cannot be a student's, in a sentence; null where it can. @param others numbers that are mended with it */
    whyNot(studentId: string, number: string, others: ReadonlyMap<string, string>): string | null {
      const named = (id: string) => nameOf.get(id) ?? 'another student'
      const rolled = holder.get(number)
      if (rolled !== undefined && rolled !== studentId) return `${number} is the number of ${named(rolled)} on the roll.`
      const before = takenFor.get(number)
      if (before !== undefined && before !== studentId) return `The office took ${number} for ${named(before)} before.`
      for (const [id, same] of others)
        if (id !== studentId && same === number) return `${number} is typed for ${named(studentId)} and for ${named(id)}.`
      return null
    },
  }
}
