import type { ComponentResult, CourseResult, GradedCourse, StudentResult } from './course'
import { HELD, MET, orNull, type GradeTable } from './grade-table'
import type { PackedComponent, PackedCourse } from './pack'

const NOTHING: readonly never[] = []

/** What of a packed course its results are read by. */
export type ResultPlan = Pick<PackedCourse, 'studentIds' | 'assessmentIds' | 'components' | 'planOrder'>

function droppedIds(course: ResultPlan, dropped: Uint8Array, base: number, c: PackedComponent): string[] {
  const columns: number[] = []
  for (let a = c.start; a < c.end; a++) if (dropped[base + a]) columns.push(a)
  return columns.sort((x, y) => course.planOrder[x]! - course.planOrder[y]!).map((a) => course.assessmentIds[a]!)
}

/** Places of the conditions that stand so for the student at a row. */
function conditionsAt({ conditions, final }: GradeTable, row: number, is: (state: number) => boolean): readonly number[] {
  if (!conditions) return NOTHING
  const many = conditions.length / final.length
  const own = conditions.subarray(row * many, (row + 1) * many)
  return own.some(is) ? Array.from(own.keys()).filter((i) => is(own[i]!)) : NOTHING
}

/** Percent and dropped work of each component, in the order of the plan, of the student at a row of the course and of the table. */
export function componentResults(course: ResultPlan, table: GradeTable, row: number): ComponentResult[] {
  const { components } = course
  const results = new Array<ComponentResult>(components.length)
  for (let i = 0; i < components.length; i++) {
    const c = components[i]!
    results[c.planOrder] = {
      componentId: c.id,
      percent: orNull(table.componentPercent[row * components.length + i]!),
      dropped: table.dropped && c.dropLowest > 0 ? droppedIds(course, table.dropped, row * course.assessmentIds.length, c) : NOTHING,
    }
  }
  return results
}

/** One student’s result, from a row of the table. */
export function studentResult(table: GradeTable, row: number, studentId: string): StudentResult {
  return {
    studentId,
    soFar: orNull(table.soFar[row]!),
    lowest: orNull(table.lowest[row]!),
    highest: orNull(table.highest[row]!),
    final: orNull(table.final[row]!),
    adjusted: orNull(table.adjusted[row]!),
    rounded: orNull(table.rounded[row]!),
    grade: table.grade[row]! < 0 ? null : table.boundaries[table.grade[row]!]!.grade,
    heldBy: conditionsAt(table, row, (state) => state === HELD),
    unmet: conditionsAt(table, row, (state) => state !== MET),
    pending: table.pending[row]!,
  }
}

/** The results of a packed course, student by student; these are put together when they are first looked at. */
export function resultOf(packed: ResultPlan, table: GradeTable, by: Omit<CourseResult, 'students'>): GradedCourse {
  let students: StudentResult[] | null = null
  return {
    get students() {
      return (students ??= packed.studentIds.map((id, row) => studentResult(table, row, id)))
    },
    componentsAt: (row) => componentResults(packed, table, row),
    ...by,
  }
}
