import { actsOnReadings, isRereading, markMethodOf, methodOf, type Adjustment, type TakenFrom } from '#core/rescale'
import { applyChanges, sectionSat, unreachedBy, type Change, type Workings } from '#core/trial'
import type { CourseState } from '../../course/state'
import { leansIn } from './leans-in'
import type { Subject } from './subject'

/** One adjustment of a stack, as the trial has it. */
export interface StackItem {
  adjustment: Adjustment
  /** Adopted as it is; adopted, and changed or switched in the trial; or new in the trial. */
  state: 'adopted' | 'changed' | 'tried'
  /** Marks that it covers. */
  covered: number
  /** Its figures were others when it was fixed: what they would be by now. */
  anew: { adjustment: Adjustment; words: string } | null
  /** Readings that came since its criteria were counted, and count as they were made. */
  uncounted: number
  /** Students whose mark it covers and does not change. */
  unreached: string[]
}

/** A mark on its way through the stack. */
export interface Way {
  studentId: string
  /** The section they were in on the day it was sat. */
  sectionId: string
  plain: number
  /** What each adjustment made of it, in the order in which they act; those that do not cover it are left out. */
  steps: readonly { adjustmentId: string; mark: number }[]
}

/** The adjustments of a subject in the order in which they act: those on readings first. */
export const inOrder = (adjustments: readonly Adjustment[], assessmentId: string | null): Adjustment[] => {
  const own = adjustments.filter((a) => a.assessmentId === assessmentId)
  return [...own.filter((a) => actsOnReadings(a.method)), ...own.filter((a) => !actsOnReadings(a.method))]
}

/** What of a trial is about a subject’s adjustments. */
export const isAbout =
  (subject: Pick<Subject, 'assessmentId'>, adopted: readonly Adjustment[]) =>
  (c: Change): boolean => {
    if (c.kind === 'adjust') return c.adjustment.assessmentId === subject.assessmentId
    if (c.kind === 'order') return c.assessmentId === subject.assessmentId
    return c.kind === 'switch' && adopted.find((a) => a.id === c.adjustmentId)?.assessmentId === subject.assessmentId
  }

/** Every mark of a subject, with its way through the stack of the trial. */
export function waysOf(state: CourseState, { assessmentId }: Subject): Way[] {
  const { tried, current } = state
  const { students } = tried.course
  if (assessmentId === null) return totalWays(state)
  const column = tried.cells.assessment(assessmentId)
  const sat = sectionSat(tried)
  const { plain, steps } = current.standing
  const taken = steps.get(column)?.()
  return students.flatMap(({ id, sectionId }, row): Way[] => {
    const cell = row * tried.cells.width + column
    const mark = plain[cell]!
    if (mark !== mark) return []
    return [{ studentId: id, sectionId: sat(id, sectionId, assessmentId), plain: mark, steps: taken?.get(cell) ?? NO_STEPS }]
  })
}

function totalWays({ tried, current }: CourseState): Way[] {
  const { final } = current.graded.table
  const on = inOrder(tried.adjustments, null).filter((a) => a.on)
  const columns = on.map((_, i) => current.totalsUnder(on.slice(0, i + 1)).percents)
  return tried.course.students.flatMap(({ id, sectionId }, row): Way[] => {
    const plain = final[row]!
    if (plain !== plain) return []
    return [{ studentId: id, sectionId, plain, steps: on.map((a, i) => ({ adjustmentId: a.id, mark: columns[i]![row]! })) }]
  })
}

const NO_STEPS: Way['steps'] = []

/** What an adjustment made of a mark; undefined where it does not cover it. */
export const comesOut = ({ steps }: Way, id: string): number | undefined => steps.find((s) => s.adjustmentId === id)?.mark

/** A mark as it goes into an adjustment; without one, as it comes out of the whole stack. */
export function goingInto(way: Way, stack: readonly Adjustment[], id: string | null): number {
  let mark = way.plain
  for (const a of stack) {
    if (a.id === id) break
    mark = comesOut(way, a.id) ?? mark
  }
  return mark
}

export const covers = (a: Pick<Adjustment, 'sectionIds'>, way: Pick<Way, 'sectionId'>): boolean =>
  a.sectionIds === null || a.sectionIds.includes(way.sectionId)

/** Marks of the group that a way matches, as they go into it; null where that group is of another course or none. */
export function likeMarks(a: Adjustment, ways: readonly Way[], stack: readonly Adjustment[]): number[] | null {
  if (!('like' in a.method)) return null
  const { like } = a.method
  if (like.group === 'typed' || like.group === 'year') return null
  return ways
    .filter((w) => (like.group === 'section' ? w.sectionId === like.sectionId : !covers(a, w)))
    .map((w) => goingInto(w, stack, a.id))
}

/** What the figures of an adjustment are taken from, as things stand. */
export function takenFrom(state: CourseState, a: Adjustment, ways: readonly Way[], stack: readonly Adjustment[]): TakenFrom {
  return {
    covered: ways.filter((w) => covers(a, w)).map((w) => goingInto(w, stack, a.id)),
    like: likeMarks(a, ways, stack),
    leanOf: (markerId) => (a.assessmentId === null ? null : (leansIn(state, a.assessmentId).get(markerId)?.effect ?? null)),
  }
}

/** The same adjustment fixed by the figures there are now; null where they are what they were. */
export function takenAnew(
  state: CourseState,
  a: Adjustment,
  ways: readonly Way[],
  stack: readonly Adjustment[],
): { adjustment: Adjustment; words: string } | null {
  const { anew } = methodOf(a.method.kind)
  if (!anew) return null
  // The highest course percent is a fraction, and the double of it would not do at a boundary.
  if (a.assessmentId === null && a.method.kind === 'topTo') {
    const { highest } = state.current.totalsUnder(stack.slice(0, stack.indexOf(a)).filter((x) => x.on))
    if (highest === null || highest === a.method.highest) return null
    const found = markMethodOf('topTo').anew!({ kind: 'topTo', to: a.method.to }, takenFrom(state, a, ways, stack))
    return found && { adjustment: { ...a, method: { ...a.method, highest } }, words: found.words }
  }
  const found = anew(a.method, takenFrom(state, a, ways, stack))
  return found && { adjustment: { ...a, method: found.method }, words: found.words }
}

/** The stack of a subject, with the trial in it. */
export function stackItems(state: CourseState, subject: Subject, ways: readonly Way[]): StackItem[] {
  const { workings, tried, changes } = state
  const stack = inOrder(tried.adjustments, subject.assessmentId)
  const adopted = new Set(workings.adjustments.map((a) => a.id))
  const touched = new Set(changes.flatMap((c) => (c.kind === 'adjust' ? c.adjustment.id : c.kind === 'switch' ? c.adjustmentId : [])))
  return stack.map((a) => ({
    adjustment: a,
    state: !adopted.has(a.id) ? 'tried' : touched.has(a.id) ? 'changed' : 'adopted',
    covered: ways.filter((w) => covers(a, w)).length,
    anew: takenAnew(state, a, ways, stack),
    uncounted: uncountedBy(tried, a),
    unreached: unreachedBy(tried, a).map((cell) => tried.cells.studentId(cell)),
  }))
}

/** How many handed-in readings of its assessment a count of criteria says nothing of. */
function uncountedBy({ cells, readings, markerIds }: Workings, { assessmentId, method }: Adjustment): number {
  if (assessmentId === null || !isRereading(method)) return 0
  const known = new Set(method.scriptIds.map((id, i) => `${method.markerIds[i]} ${id}`))
  const column = cells.assessment(assessmentId)
  return readings.cell.reduce(
    (n, cell, i) => n + Number(cell % cells.width === column && !known.has(`${markerIds[readings.marker[i]!]} ${cells.scriptId(cell)}`)),
    0,
  )
}

/** The course without what a trial does to a subject: what it is held against. */
export function withoutOwn(state: CourseState, subject: Subject): { others: Change[]; base: CourseState['current'] } {
  const { workings, changes, adopted } = state
  const about = isAbout(subject, [...workings.adjustments])
  const others = changes.filter((c) => !about(c))
  return { others, base: others.length === 0 ? adopted : adopted.with(applyChanges(workings, others)) }
}
