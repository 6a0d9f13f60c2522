import type { Assessment, Course, CourseResult, MarkRow, Policy, StudentResult } from './course'
import { afterLate, FIXED, OUT, statusRules, TAKE_LATE, WAIT, type StatusRules } from './scoring'
import { STATUS_CODE } from './pack'

/** What one assessment carries of a student's course percent. */
export interface CarriedPart {
  assessment: Assessment
  /** Points of the course percent that full marks in it are. */
  points: number
  /** What was scored, 0..1 and above, by policy and late rule. */
  fraction: number
  row: MarkRow
}

/**
 * Walks the students with what each assessment that is scored, and not dropped, carries of their course percent.
 * @param result of the course
 */
export function carriedBy(
  { components, assessments, placements, students, marks, policy }: Course,
  result: CourseResult,
  visit: (student: StudentResult, parts: CarriedPart[]) => void,
): void {
  const rules = statusRules(policy)
  const rows = new Map<string, Map<string, MarkRow>>()
  for (const m of marks) {
    const own = rows.get(m.studentId)
    if (own) own.set(m.assessmentId, m)
    else rows.set(m.studentId, new Map([[m.assessmentId, m]]))
  }
  const placed = new Map<string, Set<string>>()
  for (const p of placements) {
    const own = placed.get(p.sectionId)
    if (own) own.add(p.assessmentId)
    else placed.set(p.sectionId, new Set([p.assessmentId]))
  }
  const sectionOf = new Map(students.map((s) => [s.id, s.sectionId]))
  const counting = components.map((c) => assessments.filter((a) => a.counts && a.componentId === c.id))
  const nothing = new Map<string, MarkRow>()
  for (const student of result.students) {
    const there = placed.get(sectionOf.get(student.studentId)!)
    const own = rows.get(student.studentId) ?? nothing
    const carried = components.flatMap((component, i) => {
      const figures = student.components[i]
      if (!figures || figures.percent === null) return []
      const parts = counting[i]!.flatMap((assessment) => {
        const row = own.get(assessment.id)
        if (!row || !there?.has(assessment.id) || figures.dropped.includes(assessment.id)) return []
        const fraction = fractionOf(row, assessment, rules, policy)
        return fraction === null ? [] : [{ assessment, row, fraction, inside: component.combine === 'equally' ? 1 : assessment.worth }]
      })
      const sum = parts.reduce((s, p) => s + (p.assessment.bonus ? 0 : p.inside), 0)
      return sum > 0 ? [{ component, parts, sum }] : []
    })
    const ordinary = carried.reduce((s, c) => s + (c.component.bonus ? 0 : c.component.weight), 0)
    visit(
      student,
      // Without an ordinary component that carries anything there is no course percent.
      ordinary <= 0
        ? []
        : carried.flatMap(({ component, parts, sum }) => {
            const of = component.bonus ? 100 : ordinary
            return parts.map(({ inside, ...p }) => ({ ...p, points: ((100 * component.weight) / of) * (inside / sum) }))
          }),
    )
  }
}

/** Null where nothing is scored. */
function fractionOf(row: MarkRow, { outOf }: Assessment, { action, fixed }: StatusRules, policy: Policy): number | null {
  const status = STATUS_CODE[row.status]
  const does = action[status]!
  if (does === OUT || does === WAIT) return null
  if (does === FIXED) return fixed[status]!
  if (row.mark === null) return null
  return does === TAKE_LATE ? afterLate(row.mark / outOf, row.daysLate, policy.late) : row.mark / outOf
}
