import { Grader, SCORED } from './grade-course'
import type { GradeTable } from './grade-table'
import type { PackedCourse } from './pack'

/** What one student's assessments carry of their course percent, by column of the packed course. */
export interface Carried {
  /** Points of the course percent that full marks in it are; NaN where nothing is scored, or it is dropped. */
  points: Float64Array
  /** What was scored, 0..1 and above, by policy and late rule; anything where `points` is NaN. */
  fraction: Float64Array
}

/**
 * Walks the students with what each assessment that is scored, and not dropped, carries of their course percent.
 * @param table the grades of the same course
 * @param visit is given a student's row, and the same two arrays for each student
 */
export function carriedBy(course: PackedCourse, table: GradeTable, visit: (row: number, carried: Carried) => void): void {
  const { components, inside, bonus, studentIds } = course
  const grader = new Grader(course, false)
  const { state, fraction } = grader
  const width = inside.length
  const points = new Float64Array(width)
  const sums = new Float64Array(components.length)
  const carries = (row: number, a: number) => state[a] === SCORED && !(table.dropped && table.dropped[row * width + a] === 1)
  for (let row = 0; row < studentIds.length; row++) {
    grader.scoreAll(row)
    points.fill(NaN)
    let ordinary = 0
    for (let i = 0; i < components.length; i++) {
      const c = components[i]!
      const percent = table.componentPercent[row * components.length + i]!
      let sum = 0
      if (percent === percent) for (let a = c.start; a < c.end; a++) if (bonus[a] === 0 && carries(row, a)) sum += inside[a]!
      sums[i] = sum
      if (sum > 0 && !c.bonus) ordinary += c.weight
    }
    // Without an ordinary component that carries anything there is no course percent.
    if (ordinary > 0)
      for (let i = 0; i < components.length; i++) {
        const c = components[i]!
        if (sums[i] === 0) continue
        const each = (100 * c.weight) / (c.bonus ? 100 : ordinary) / sums[i]!
        for (let a = c.start; a < c.end; a++) if (carries(row, a)) points[a] = each * inside[a]!
      }
    visit(row, { points, fraction })
  }
}
