import type { DecimalSign } from '#core/grades'
import { changedInWords, resultInWords } from '#core/issues'
import type { OwnWork } from '#contract'
import type { Clock } from '../../kernel/clock'
import { issuesOf } from '../../kernel/course/issues'
import type { Db } from '../../kernel/db/open'
import type { IssuedResults, IssuedToOne } from '../../kernel/course/issued-results'

/** A student's confirmed result with how it came about, and what was out before it. */
export function ownResults(db: Db, issued: IssuedResults, clock: Clock) {
  const issues = issuesOf(db)
  const release = db.prepare<[string, string], string>('SELECT on_day FROM result_release WHERE course_id = ? AND section_id = ?').pluck()
  const told = db.prepare<[string, string], string>('SELECT at FROM told_result WHERE course_id = ? AND student_id = ?').pluck()
  /** From which day they see it: their section's, or the day they were told where they have moved since. */
  function outSince(courseId: string, studentId: string, sectionId: string): string | null {
    const onDay = release.get(courseId, sectionId)
    if (onDay !== undefined && onDay <= clock.today()) return onDay
    const at = told.get(courseId, studentId)
    return at === undefined ? null : clock.dayOf(at)
  }
  const figures = (issue: number, { result: { rounded, grade } }: IssuedToOne) => ({ issue, percent: rounded, grade })

  /** @param decimal how they write numbers */
  return async (
    courseId: string,
    studentId: string,
    sectionId: string,
    decimal: DecimalSign,
  ): Promise<Pick<OwnWork, 'result' | 'earlier'>> => {
    const onDay = outSince(courseId, studentId, sectionId)
    if (onDay === null) return { result: null, earlier: [] }
    const heads = issues.heads(courseId)
    const counts = heads.filter((h) => h.counted)
    const now = counts.findIndex((h) => h.inForce)
    if (now < 0) return { result: null, earlier: [] }
    const current = await issued(courseId, counts[now]!, studentId)
    let later = current
    const earlier: OwnWork['earlier'] = []
    for (let i = now + 1; i < counts.length; i++) {
      // What was replaced before results came out was nobody's to see.
      if (clock.dayOf(counts[i - 1]!.at) < onDay) break
      const then = await issued(courseId, counts[i]!, studentId)
      if (then) earlier.push({ ...figures(counts[i]!.number, then), changed: later ? changedInWords(then, later, decimal) : [] })
      later = then
    }
    if (!current) return { result: null, earlier }
    const { result } = current
    return {
      result: { ...figures(counts[now]!.number, current), pending: result.pending, ...resultInWords(current, result, decimal) },
      earlier,
    }
  }
}
