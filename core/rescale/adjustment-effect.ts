import type { Course, CourseResult, MarkRow } from '../grades/course'
import { gradeCourse } from '../grades/grade-course'
import { meanOf } from '../compare/describe'
import { compareResults, percentOf, type ResultChange } from './compare-results'

export interface SectionEffect {
  sectionId: string
  marksChanged: number
  /** Mean of the section's course percents. */
  meanBefore: number | null
  meanAfter: number | null
  up: number
  down: number
}

export interface AdjustmentEffect extends ResultChange {
  marksChanged: number
  sections: SectionEffect[]
  before: CourseResult
  after: CourseResult
}

/**
 * What a change of marks does: marks, percents and grades that change, by section, and the pairs of students
 * whose order is reversed.
 * @param course without regard to its own `marks`
 * @param before standing marks as they are
 * @param after standing marks as they would be
 */
export function adjustmentEffect(course: Omit<Course, 'marks'>, before: MarkRow[], after: MarkRow[]): AdjustmentEffect {
  const graded = (marks: MarkRow[]): CourseResult => gradeCourse({ ...course, marks })
  const results = [graded(before), graded(after)] as const
  const sectionOf = new Map(course.students.map((s) => [s.id, s.sectionId]))
  const was = new Map(before.map((m) => [`${m.studentId}\n${m.assessmentId}`, m.mark]))
  const changedIn = new Map<string, number>()
  let marksChanged = 0
  for (const m of after) {
    if ((was.get(`${m.studentId}\n${m.assessmentId}`) ?? null) === m.mark) continue
    marksChanged++
    const section = sectionOf.get(m.studentId)!
    changedIn.set(section, (changedIn.get(section) ?? 0) + 1)
  }
  const change = compareResults(...results)
  const sections = [...new Set(sectionOf.values())].map((sectionId): SectionEffect => {
    const mean = (result: CourseResult) =>
      meanOf(result.students.filter((s) => sectionOf.get(s.studentId) === sectionId).flatMap((s) => percentOf(s) ?? []))
    const movers = change.movers.filter((m) => sectionOf.get(m.studentId) === sectionId)
    return {
      sectionId,
      marksChanged: changedIn.get(sectionId) ?? 0,
      meanBefore: mean(results[0]),
      meanAfter: mean(results[1]),
      up: movers.filter((m) => m.direction > 0).length,
      down: movers.filter((m) => m.direction < 0).length,
    }
  })
  return { ...change, marksChanged, sections, before: results[0], after: results[1] }
}
