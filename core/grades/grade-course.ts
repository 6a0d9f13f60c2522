import type { Boundary, ComponentResult, Course, GradedCourse, StudentResult } from './course'
import { TotalAdjuster } from './adjust-totals'
import { Conditions } from './conditions'
import type { GradeTable } from './grade-table'
import { componentResults, resultOf, studentResult } from './course-results'
import { chooseDrops, type DropColumns, type DropScratch } from './drops'
import { exactComponentPercent, exactCoursePercent } from './exact-course'
import { packCourse, type PackedComponent, type PackedCourse } from './pack'
import { toNumber } from './rational'
import { descending, gradeExactly, gradeIndex, needsExact, roundClear } from './rounding'
import { plainPercents } from './plain-percents'
import { afterLate, FIXED, OUT, statusRules, TAKE_LATE, type StatusRules } from './scoring'

/** What a cell counts as. */
export const NOT_APPLYING = 0
export const SCORED = 1
export const PENDING = 2

/** How pending work is taken when a percent is formed. */
const WITHOUT = 0
const AS_NOTHING = 1
const AS_FULL = 2
type PendingAs = 0 | 1 | 2

/**
 * The engine: grades one student after the other over the same few arrays. `explainGrade` reads those
 * arrays for its student, so what is explained is what was computed.
 */
export class Grader {
  readonly rules: StatusRules
  readonly state: Uint8Array
  readonly fraction: Float64Array
  readonly dropped: Uint8Array
  readonly componentPercent: Float64Array
  readonly sorted: Boundary[]
  /** Component → how much of it is pending. */
  private readonly pendingIn: Int32Array
  /** Of components with pending work in them taken as something. */
  private readonly otherPercent: Float64Array
  private readonly f: Float64Array
  private readonly scratch: DropScratch
  private readonly canonical: Int32Array
  /** Component → 1 where doubles cannot tell what it drops. */
  private readonly unsure: Uint8Array
  // Taken from the course, as courses are objects of several shapes and a grader is of one: its loops are compiled once for all of them.
  private readonly components: readonly PackedComponent[]
  private readonly mark: Float64Array
  private readonly status: Uint8Array
  private readonly daysLate: Float64Array | null
  private readonly placed: Uint8Array
  private readonly sectionOf: Int32Array
  private readonly outOf: Float64Array
  private readonly columns: DropColumns & { bonus: Uint8Array }

  constructor(
    readonly course: PackedCourse,
    /** Without: `lowest` and `highest` of who has something pending are not worked out, and stay 0. */
    private readonly withRange = true,
  ) {
    const width = course.assessmentIds.length
    this.rules = statusRules(course.policy)
    this.state = new Uint8Array(width)
    this.fraction = new Float64Array(width)
    this.f = new Float64Array(width)
    this.dropped = new Uint8Array(width)
    this.componentPercent = new Float64Array(course.components.length)
    this.pendingIn = new Int32Array(course.components.length)
    this.otherPercent = new Float64Array(course.components.length)
    this.sorted = descending(course.boundaries)
    this.canonical = Int32Array.from({ length: width }, (_, i) => i)
    this.unsure = new Uint8Array(course.components.length)
    this.components = course.components
    this.mark = course.mark
    this.status = course.status
    this.daysLate = course.daysLate
    this.placed = course.placed
    this.sectionOf = course.sectionOf
    this.outOf = course.outOf
    this.columns = { inside: course.inside, droppable: course.droppable, bonus: course.bonus }
    this.scratch = {
      f: this.f,
      ordinary: new Uint8Array(width),
      dropped: new Uint8Array(width),
      value: new Float64Array(width),
      lowest: new Int32Array(width),
    }
  }

  /** Grades a student and writes the figures at `row` of `out`. */
  grade(student: number, out: GradeTable, row: number): void {
    const pending = this.scoreAll(student)
    const soFar = this.percent(student, WITHOUT)
    const components = this.componentPercent.length
    for (let i = 0; i < components; i++) out.componentPercent[row * components + i] = this.componentPercent[i]!
    if (out.dropped) {
      for (let i = 0; i < components; i++) if (this.unsure[i] === 1) this.nameDropped(student, i)
      out.dropped.set(this.dropped, row * this.dropped.length)
    }
    this.conclude(student, out, row, soFar, pending)
  }

  /**
   * Grades a student again of whom marks in some components, and nothing else, have changed: what the others come to stands at `row` of
   * `out` already.
   * @param components their places in the packed course
   */
  gradeIn(student: number, out: GradeTable, row: number, components: readonly number[]): void {
    const { componentPercent } = this
    const base = row * componentPercent.length
    let pending = out.pending[row]!
    if (pending === 0) for (const i of components) pending += this.score(student, i)
    // What is pending counts in other components too.
    if (pending > 0) pending = this.scoreAll(student)
    for (let i = 0; i < componentPercent.length; i++) componentPercent[i] = out.componentPercent[base + i]!
    for (const i of components) {
      out.componentPercent[base + i] = componentPercent[i] = this.percentOf(student, i, WITHOUT)
      if (!out.dropped) continue
      if (this.unsure[i] === 1) this.nameDropped(student, i)
      const { start, end } = this.components[i]!
      const to = row * this.dropped.length
      for (let a = start; a < end; a++) out.dropped[to + a] = this.dropped[a]!
    }
    this.conclude(student, out, row, this.together(componentPercent), pending)
  }

  /** Writes what follows from the percent so far, which is final where nothing is pending. */
  private conclude(student: number, out: GradeTable, row: number, soFar: number, pending: number): void {
    out.soFar[row] = soFar
    out.pending[row] = pending
    if (pending === 0) return this.finish(student, out, row, soFar)
    if (this.withRange) {
      out.lowest[row] = this.percent(student, AS_NOTHING)
      out.highest[row] = this.percent(student, AS_FULL)
    }
    out.final[row] = out.rounded[row] = NaN
    out.grade[row] = -1
  }

  /** Rounds and grades a percent of which nothing is pending. */
  finish(student: number, out: GradeTable, row: number, soFar: number): void {
    out.lowest[row] = out.highest[row] = out.final[row] = out.rounded[row] = soFar
    out.grade[row] = -1
    if (soFar !== soFar) return
    const { rounding } = this.course.policy
    if (needsExact(soFar, rounding, this.sorted)) {
      const exact = exactCoursePercent(this.course, this.rules, student).percent!
      const decided = gradeExactly(exact, rounding, this.sorted)
      out.soFar[row] = out.lowest[row] = out.highest[row] = out.final[row] = toNumber(exact)
      out.rounded[row] = decided.rounded
      out.grade[row] = decided.grade
    } else {
      out.rounded[row] = roundClear(soFar, rounding)
      out.grade[row] = gradeIndex(out.rounded[row]!, this.sorted)
    }
  }

  /** Fills `state` and `fraction` for a student. @returns how much is pending */
  scoreAll(student: number): number {
    let pending = 0
    for (let i = 0; i < this.pendingIn.length; i++) pending += this.score(student, i)
    return pending
  }

  /** The same for one component. The columns are held in locals: this runs once for every mark. */
  private score(student: number, component: number): number {
    const { state, fraction, placed, status, mark, outOf, daysLate } = this
    const { action, fixed } = this.rules
    const width = state.length
    const base = student * width
    const place = this.sectionOf[student]! * width
    const { start, end } = this.components[component]!
    let pending = 0
    for (let a = start; a < end; a++) {
      if (placed[place + a] === 0) {
        state[a] = NOT_APPLYING
        continue
      }
      const does = action[status[base + a]!]!
      const m = mark[base + a]!
      if (does === 0 && m === m) {
        fraction[a] = m / outOf[a]!
        state[a] = SCORED
      } else if (does === TAKE_LATE && m === m) {
        fraction[a] = afterLate(m / outOf[a]!, daysLate ? daysLate[base + a]! : 0, this.course.policy.late)
        state[a] = SCORED
      } else if (does === OUT) state[a] = NOT_APPLYING
      else if (does === FIXED) {
        fraction[a] = fixed[status[base + a]!]!
        state[a] = SCORED
      } else {
        state[a] = PENDING
        pending++
      }
    }
    this.pendingIn[component] = pending
    return pending
  }

  /** The course percent with pending work taken as asked; NaN for none. `WITHOUT` also leaves the components' percents and drops behind. */
  private percent(student: number, pendingAs: PendingAs): number {
    const percents = pendingAs === WITHOUT ? this.componentPercent : this.otherPercent
    for (let i = 0; i < percents.length; i++)
      percents[i] = pendingAs !== WITHOUT && this.pendingIn[i] === 0 ? this.componentPercent[i]! : this.percentOf(student, i, pendingAs)
    return this.together(percents)
  }

  private percentOf(student: number, component: number, pendingAs: PendingAs): number {
    const c = this.components[component]!
    return c.dropLowest === 0 ? this.plainPercentOf(student, c, pendingAs) : this.percentWithDrops(student, c, component, pendingAs)
  }

  /** The course percent that percents of its components come to; NaN for none. */
  private together(percents: Float64Array): number {
    const { components } = this
    const { policy } = this.course
    let total = 0
    let weights = 0
    let bonus = 0
    for (let i = 0; i < components.length; i++) {
      const c = components[i]!
      const p = percents[i]!
      if (p !== p) continue
      if (c.bonus) bonus += (c.weight * p) / 100
      else {
        total += c.weight * p
        weights += c.weight
      }
    }
    if (weights === 0) return NaN
    const percent = Math.max(0, total / weights + bonus)
    return policy.above100 === 'cap' ? Math.min(100, percent) : percent
  }

  /** A component that drops nothing: sums alone. */
  private plainPercentOf(student: number, c: PackedComponent, pendingAs: PendingAs): number {
    const { state, fraction, f } = this
    const { inside, bonus } = this.columns
    let points = 0
    let carried = 0
    for (let a = c.start; a < c.end; a++) {
      const s = state[a]!
      if (s === SCORED) f[a] = fraction[a]!
      else if (s === NOT_APPLYING || pendingAs === WITHOUT) continue
      else f[a] = pendingAs === AS_NOTHING ? 0 : this.fullMarks(student, a)
      points += inside[a]! * f[a]!
      if (bonus[a] === 0) carried += inside[a]!
    }
    return carried === 0 ? NaN : (100 * points) / carried
  }

  private percentWithDrops(student: number, c: PackedComponent, component: number, pendingAs: PendingAs): number {
    const { columns, state, fraction, f, dropped, scratch } = this
    const { ordinary, dropped: chosen } = scratch
    const { inside, bonus, droppable } = columns
    if (pendingAs === WITHOUT) this.unsure[component] = 0
    const { start, end } = c
    let points = 0
    let bonusPoints = 0
    let carried = 0
    let count = 0
    let mayGo = 0
    for (let a = start; a < end; a++) {
      ordinary[a] = 0
      if (pendingAs === WITHOUT) dropped[a] = 0
      const s = state[a]!
      if (s === NOT_APPLYING) continue
      if (s !== SCORED && pendingAs === WITHOUT) continue
      // Read back from the column: a number that may come of a call would be put in an object of its own for every mark.
      if (s === SCORED) f[a] = fraction[a]!
      else f[a] = pendingAs === AS_NOTHING ? 0 : this.fullMarks(student, a)
      const x = f[a]!
      const weight = inside[a]!
      if (bonus[a] === 1) bonusPoints += weight * x
      else {
        points += weight * x
        carried += weight
        count++
        mayGo += droppable[a]!
        ordinary[a] = 1
      }
    }
    if (carried === 0) return NaN
    const k = Math.min(c.dropLowest, mayGo, count - 1)
    if (k <= 0) return (100 * (points + bonusPoints)) / carried

    const outcome = chooseDrops(columns, scratch, start, end, k, c.evenDrops, bonusPoints, this.canonical)
    if (outcome === 'impossible') return NaN
    points = carried = 0
    for (let a = start; a < end; a++)
      if (ordinary[a] === 1 && chosen[a] === 0) {
        points += inside[a]! * f[a]!
        carried += inside[a]!
      }
    if (pendingAs === WITHOUT) {
      // Sums use ties broken by id, so that they never depend on the plan's order; people are told the later in the plan.
      if (outcome === 'unsure') this.unsure[component] = 1
      else if (outcome === 'tied') chooseDrops(columns, scratch, start, end, k, c.evenDrops, bonusPoints, this.course.planOrder)
      for (let a = start; a < end; a++) dropped[a] = chosen[a]!
    }
    return (100 * (points + bonusPoints)) / carried
  }

  private fullMarks(student: number, a: number): number {
    const { course } = this
    const cell = student * this.state.length + a
    return this.rules.action[course.status[cell]!] === TAKE_LATE
      ? afterLate(1, course.daysLate ? course.daysLate[cell]! : 0, course.policy.late)
      : 1
  }

  private nameDropped(student: number, component: number): void {
    const c = this.components[component]!
    this.dropped.fill(0, c.start, c.end)
    for (const a of exactComponentPercent(this.course, this.rules, student, c)?.dropped ?? []) this.dropped[a] = 1
  }
}

/** Columns for the grades of so many students, to be filled in. */
export function emptyTable(course: PackedCourse, students: number, boundaries: Boundary[]): GradeTable {
  const column = () => new Float64Array(students)
  const final = column()
  const drops = course.components.some((c) => c.dropLowest > 0)
  return {
    soFar: column(),
    lowest: column(),
    highest: column(),
    final,
    adjusted: course.adjustments.length > 0 ? column() : final,
    rounded: column(),
    grade: new Int16Array(students),
    pending: new Int32Array(students),
    componentPercent: new Float64Array(students * course.components.length),
    dropped: drops ? new Uint8Array(students * course.assessmentIds.length) : null,
    conditions: course.conditions.length > 0 ? new Uint8Array(students * course.conditions.length) : null,
    boundaries,
  }
}

/**
 * Grades a packed course: one pass over its marks, results as columns.
 * @param withRange whether `lowest` and `highest` are wanted too
 */
export function gradePacked(course: PackedCourse, withRange = true): GradeTable {
  const grader = new Grader(course, withRange)
  const table = emptyTable(course, course.studentIds.length, grader.sorted)
  plainPercents(course, table)
  const { soFar } = table
  for (let s = 0; s < soFar.length; s++)
    if (soFar[s] === soFar[s]) grader.finish(s, table, s, soFar[s]!)
    else grader.grade(s, table, s)
  if (course.adjustments.length > 0) new TotalAdjuster(course, table).adjustAll(table)
  if (table.conditions) new Conditions(course, grader.sorted).holdAll(table)
  return table
}

/** Grades one student, and leaves the grader's working for `explainGrade` to read. */
export function gradeOne(
  course: PackedCourse,
  student: number,
): { result: StudentResult; components: () => ComponentResult[]; grader: Grader } {
  const grader = new Grader(course)
  const table = emptyTable(course, 1, grader.sorted)
  grader.grade(student, table, 0)
  if (course.adjustments.length > 0)
    new TotalAdjuster(course, table, () => gradePacked({ ...course, adjustments: [] })).adjust(table, student, 0)
  if (table.conditions) new Conditions(course, grader.sorted).hold(table, student, 0)
  return {
    result: studentResult(table, 0, course.studentIds[student]!),
    components: () => componentResults(course, table, 0),
    grader,
  }
}

/**
 * From marks to course percents and grades.
 *
 * @param course components, assessments, placements, students, marks (on 0..outOf) and boundaries (percent)
 * @returns for every student, in the roll's order, the four percents, the rounded one and the grade
 * @throws CourseError where the course contradicts itself (unknown or double ids, a mark that is no number)
 *
 * Dropping is optimal (Kane & Kane 2006); a percent within 1e-7 of a rounding tie or a boundary is decided
 * in exact rational arithmetic. Cost grows linearly with marks.
 */
export function gradeCourse(course: Course): GradedCourse {
  const packed = packCourse(course)
  return resultOf(packed, gradePacked(packed), {
    boundaries: course.boundaries,
    rounding: course.policy.rounding,
    conditions: course.conditions ?? [],
  })
}
