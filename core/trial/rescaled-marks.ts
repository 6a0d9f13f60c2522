import { group } from 'd3-array'
import { adjustedMarks, applyAdjustments, stackOver, type AdjustableMark, type Adjustment, type Read } from '../rescale/adjustments'
import { actsOnReadings } from '../rescale/methods'
import { placementFor } from '../roll/due-for'
import type { Standing, Step, StepsOfAssessment } from './standing'
import { NO_SCRIPT, readingsOf, type Workings } from './workings'

const NO_STEPS: Standing['steps'] = new Map()

/** The places of the assessments that anything is rescaled in. */
const rescaledColumns = ({ cells, adjustments }: Pick<Workings, 'cells' | 'adjustments'>): number[] =>
  [...new Set(adjustments.flatMap((a) => (a.on && a.assessmentId !== null ? cells.assessment(a.assessmentId) : [])))].filter((a) => a >= 0)

/**
 * What stands where the adjustments, and nothing else, have changed.
 * @returns and the cells whose mark is another
 */
export function standingRescaled(was: Standing, before: Workings, w: Workings): { standing: Standing; cells: number[] } {
  const changed = (a: Adjustment) => before.adjustments.indexOf(a) !== w.adjustments.indexOf(a)
  const touched = [...w.adjustments.filter(changed), ...before.adjustments.filter((a) => !w.adjustments.includes(a))]
  // The same ones in another order are touched as well: places have changed.
  const columns = [...new Set(touched.flatMap((a) => (a.assessmentId === null ? [] : w.cells.assessment(a.assessmentId))))].filter(
    (a) => a >= 0,
  )
  if (columns.length === 0) return { standing: was, cells: [] }
  const { width, count } = w.cells
  const mark = was.mark.slice()
  const steps = new Map(was.steps)
  const on = new Set(rescaledColumns(w))
  for (const c of columns) {
    for (let cell = c; cell < count; cell += width) mark[cell] = was.plain[cell]!
    steps.delete(c)
  }
  rescale(
    w,
    was.plain,
    columns.filter((c) => on.has(c)),
    mark,
    steps,
  )
  const cells: number[] = []
  for (const c of columns) for (let cell = c; cell < count; cell += width) if (!Object.is(mark[cell], was.mark[cell])) cells.push(cell)
  return { standing: { source: was.source, plain: was.plain, mark, steps }, cells }
}

/** Runs the plain marks of some assessments through the stack. */
function rescale(
  w: Workings,
  plain: Float64Array,
  columns: readonly number[],
  mark: Float64Array,
  steps: Map<number, StepsOfAssessment>,
): void {
  const stack = stackOf(w)
  for (const c of columns) {
    const rows = adjustable(w, plain, c)
    const own = stack.filter((a) => a.assessmentId === w.cells.assessmentIds[c])
    const after = adjustedMarks(rows, own)
    rows.forEach(({ cell }, i) => (mark[cell] = after[i]!))
    steps.set(c, stepsOf(rows, own))
  }
}

/** What each adjustment of a stack makes of marks, worked out when somebody first looks. */
function stepsOf(rows: ReturnType<typeof adjustable>, stack: readonly Adjustment[]): StepsOfAssessment {
  let known: ReadonlyMap<number, readonly Step[]> | null = null
  return () =>
    (known ??= new Map(applyAdjustments(rows, stack).flatMap(({ steps }, i) => (steps.length > 0 ? [[rows[i]!.cell, steps]] : []))))
}

/** What stands once plain marks have gone through the stack. */
export function throughAdjustments(w: Workings, source: Uint8Array, plain: Float64Array): Standing {
  const columns = rescaledColumns(w)
  if (columns.length === 0) return { source, plain, mark: plain, steps: NO_STEPS }
  const mark = plain.slice()
  const steps = new Map<number, StepsOfAssessment>()
  rescale(w, plain, columns, mark, steps)
  return { source, plain, mark, steps }
}

/**
 * The plan in force says what an assessment is marked out of, not the day the adjustment was made; what stands before marks are brought to
 * another maximum is out of the one they came from.
 */
export function stackOf({ adjustments, course }: Pick<Workings, 'adjustments' | 'course'>): Workings['adjustments'] {
  const outOf = new Map<string | null, number>(course.assessments.map((a) => [a.id, a.outOf]))
  return adjustments
    .toReversed()
    .map((a) => {
      const own = { ...a, outOf: outOf.get(a.assessmentId) ?? a.outOf }
      if (a.on && a.method.kind === 'anotherMaximum') outOf.set(a.assessmentId, a.method.from)
      return own
    })
    .reverse()
}

/** The section each student was in when an assessment was sat; who never moved was always in theirs. */
export function sectionSat({
  course,
  stays,
}: Pick<Workings, 'course' | 'stays'>): (studentId: string, sectionId: string, assessmentId: string) => string {
  const moved = Object.entries(stays).filter(([, own]) => own.length > 1)
  if (moved.length === 0) return (_, sectionId) => sectionId
  const placements = group(course.placements, (p) => p.assessmentId)
  return (studentId, sectionId, assessmentId) => {
    const own = stays[studentId]
    if (!own || own.length < 2) return sectionId
    return placementFor(placements.get(assessmentId) ?? [], own, sectionId)?.sectionId ?? sectionId
  }
}

/** The plain marks of an assessment as the stack takes them. */
function adjustable(w: Workings, plain: Float64Array, column: number) {
  const { cells, course, scripts } = w
  const sat = sectionSat(w)
  const assessmentId = cells.assessmentIds[column]!
  const reread = w.adjustments.some((a) => a.on && a.assessmentId === assessmentId && actsOnReadings(a.method))
  const rows: (AdjustableMark & { cell: number; mark: number })[] = []
  course.students.forEach(({ id, sectionId }, s) => {
    const cell = s * cells.width + column
    if (scripts.there[cell] === NO_SCRIPT || Number.isNaN(plain[cell])) return
    const read = reread ? readBehind(w, cell) : null
    const row = { cell, studentId: id, assessmentId, sectionId: sat(id, sectionId, assessmentId), mark: plain[cell]! }
    rows.push(read ? { ...row, read } : row)
  })
  return rows
}

/** The readings that a plain mark came of, and how; null where it was typed. */
export function readBehind(w: Workings, cell: number): Read | null {
  const readings = readingsOf(w, cell)
  if (readings.length === 0) return null
  const assessmentId = w.cells.assessmentId(cell)
  const { step } = w.agreeing[assessmentId]!
  const scriptId = w.cells.scriptId(cell)
  if (w.agreed.has(cell)) return { scriptId, readings, rule: w.agreedBy.get(cell) ?? null, step }
  if (w.scripts.entered[cell] === w.scripts.entered[cell]) return null
  const wanted = w.readingsWanted[assessmentId] ?? 1
  const rule = w.agreeBy[assessmentId]
  return wanted > 1 || readings.length > 1
    ? { scriptId, readings, rule: rule === undefined ? { kind: 'first' } : { kind: rule }, step }
    : { scriptId, readings, rule: { kind: 'first' }, step: null }
}

/** What the stack in force would make of another plain mark in a cell, the others being what they are. */
export function rescaledTo(w: Workings, standing: Standing): (cell: number, plain: number) => number {
  const stacks = new Map<number, ReturnType<typeof stackOver>>()
  const sections = w.course.students
  const sat = sectionSat(w)
  return (cell, plain) => {
    const column = cell % w.cells.width
    const assessmentId = w.cells.assessmentId(cell)
    if (!w.adjustments.some((a) => a.on && a.assessmentId === assessmentId)) return plain
    let stack = stacks.get(column)
    if (!stack) stacks.set(column, (stack = stackOver(adjustable(w, standing.plain, column), stackOf(w))))
    const { id, sectionId } = sections[Math.floor(cell / w.cells.width)]!
    return stack({ studentId: id, assessmentId, sectionId: sat(id, sectionId, assessmentId) }, plain)
  }
}
