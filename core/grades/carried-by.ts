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
 * @param marksOf a student's rows of marks
 */
export function carriedBy(
  { components, assessments, placements, students, policy }: Omit<Course, 'marks'>,
  result: CourseResult,
  marksOf: (studentId: string) => readonly MarkRow[],
  visit: (student: StudentResult, parts: CarriedPart[]) => void,
): void {
  const rules = statusRules(policy)
  const width = assessments.length
  const columnOf = new Map(assessments.map((a, i) => [a.id, i]))
  const placed = new Map<string, Uint8Array>()
  for (const p of placements) {
    let own = placed.get(p.sectionId)
    if (!own) placed.set(p.sectionId, (own = new Uint8Array(width)))
    own[columnOf.get(p.assessmentId)!] = 1
  }
  const sectionOf = new Map(students.map((s) => [s.id, s.sectionId]))
  const columns = components.map((c) => assessments.flatMap((a, i) => (a.counts && a.componentId === c.id ? i : [])))
  const inside = assessments.map((a) => (components.find((c) => c.id === a.componentId)?.combine === 'equally' ? 1 : a.worth))
  // Of one student after the other, in the same few arrays.
  const rowAt = new Array<MarkRow | undefined>(width)
  const fraction = new Float64Array(width)
  const sums = new Float64Array(components.length)
  for (const student of result.students) {
    const there = placed.get(sectionOf.get(student.studentId)!)
    rowAt.fill(undefined)
    for (const m of marksOf(student.studentId)) {
      const at = columnOf.get(m.assessmentId)
      if (at !== undefined && there?.[at]) rowAt[at] = m
    }
    let ordinary = 0
    components.forEach((component, i) => {
      const figures = student.components[i]
      sums[i] = 0
      if (!figures || figures.percent === null) return
      for (const a of columns[i]!) {
        const f = rowAt[a] && !figures.dropped.includes(assessments[a]!.id) ? fractionOf(rowAt[a], assessments[a]!, rules, policy) : null
        fraction[a] = f ?? NaN
        if (f !== null && !assessments[a]!.bonus) sums[i]! += inside[a]!
      }
      if (sums[i]! > 0 && !component.bonus) ordinary += component.weight
    })
    const parts: CarriedPart[] = []
    // Without an ordinary component that carries anything there is no course percent.
    if (ordinary > 0)
      components.forEach((component, i) => {
        if (sums[i] === 0) return
        const points = (100 * component.weight) / (component.bonus ? 100 : ordinary) / sums[i]!
        for (const a of columns[i]!) {
          const f = fraction[a]!
          if (f === f) parts.push({ assessment: assessments[a]!, points: points * inside[a]!, fraction: f, row: rowAt[a]! })
        }
      })
    visit(student, parts)
  }
}

/** The rows of each student, out of those of all. */
export function marksByStudent(marks: readonly MarkRow[]): (studentId: string) => readonly MarkRow[] {
  const rows = new Map<string, MarkRow[]>()
  for (const m of marks) {
    const own = rows.get(m.studentId)
    if (own) own.push(m)
    else rows.set(m.studentId, [m])
  }
  return (studentId) => rows.get(studentId) ?? []
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
