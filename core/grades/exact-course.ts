import type { PackedComponent, PackedCourse } from './pack'
import type { Policy } from './course'
import { compare, least, minus, most, over, plus, rationalOf, times, ZERO, type Rational } from './rational'
import { FIXED, OUT, TAKE_LATE, WAIT, type StatusRules } from './scoring'

/**
 * One student's course percent in exact arithmetic: the judge where doubles come too close to a tie or a
 * boundary, and of which assessments are dropped where two choices look alike. Same rules, same order of
 * steps as the fast pass in `grade-course.ts`.
 */
export interface ExactResult {
  /** The course percent over what is scored, or null. */
  percent: Rational | null
  /** Column indices of the dropped assessments. */
  dropped: number[]
}

interface Item {
  column: number
  worth: Rational
  /** Its worth times the fraction that counts. */
  points: Rational
  droppable: boolean
  rank: number
}

const HUNDRED = rationalOf(100)
const hundredth = (percent: number) => over(rationalOf(percent), HUNDRED)

/** @param student index into `course.studentIds` */
export function exactCoursePercent(course: PackedCourse, rules: StatusRules, student: number): ExactResult {
  const dropped: number[] = []
  let total = ZERO
  let weights = ZERO
  let bonus = ZERO
  for (const c of course.components) {
    const result = exactComponentPercent(course, rules, student, c)
    if (!result) continue
    dropped.push(...result.dropped)
    const carried = times(rationalOf(c.weight), result.percent)
    if (c.bonus) bonus = plus(bonus, over(carried, HUNDRED))
    else {
      total = plus(total, carried)
      weights = plus(weights, rationalOf(c.weight))
    }
  }
  if (weights.n === 0n) return { percent: null, dropped }
  let percent = most(ZERO, plus(over(total, weights), bonus))
  if (course.policy.above100 === 'cap') percent = least(percent, HUNDRED)
  return { percent, dropped }
}

/** One student's percent in a component, over what is scored, and the columns it drops; null for none. */
export function exactComponentPercent(
  course: PackedCourse,
  rules: StatusRules,
  student: number,
  c: PackedComponent,
): { percent: Rational; dropped: number[] } | null {
  const ordinary: Item[] = []
  let bonusPoints = ZERO
  for (let a = c.start; a < c.end; a++) {
    const f = exactFraction(course, rules, student, a)
    if (!f) continue
    const worth = rationalOf(course.inside[a]!)
    const points = times(worth, f)
    if (course.bonus[a]) bonusPoints = plus(bonusPoints, points)
    else ordinary.push({ column: a, worth, points, droppable: !!course.droppable[a], rank: course.planOrder[a]! })
  }
  return componentPercent(ordinary, bonusPoints, c.dropLowest)
}

/** The fraction that counts in one column after policy and late rule; null where it does not apply or is pending. */
export function exactFraction(course: PackedCourse, rules: StatusRules, student: number, a: number): Rational | null {
  if (!course.placed[course.sectionOf[student]! * course.assessmentIds.length + a]) return null
  const cell = student * course.assessmentIds.length + a
  const status = course.status[cell]!
  const action = rules.action[status]
  if (action === OUT || action === WAIT) return null
  if (action === FIXED) return rules.fixed[status] === 0 ? ZERO : hundredth(100 * rules.fixed[status]!)
  const mark = course.mark[cell]!
  if (Number.isNaN(mark)) return null
  const f = over(rationalOf(mark), rationalOf(course.outOf[a]!))
  return action === TAKE_LATE ? exactAfterLate(f, course.daysLate?.[cell] ?? 0, course.policy.late) : f
}

function exactAfterLate(f: Rational, days: number, late: Policy['late']): Rational {
  if (late.kind === 'none') return f
  if (late.kind === 'cap') return least(f, hundredth(late.percent))
  const d = Math.min(days, late.maxDays ?? Infinity)
  return most(ZERO, minus(f, times(rationalOf(d), hundredth(late.percent))))
}

function componentPercent(items: Item[], bonusPoints: Rational, dropLowest: number): { percent: Rational; dropped: number[] } | null {
  const droppable = items.filter((i) => i.droppable)
  const k = Math.min(dropLowest, droppable.length, items.length - 1)
  let ratio = ratioOf(items, bonusPoints)
  if (!ratio) return null
  if (k <= 0) return { percent: times(HUNDRED, ratio), dropped: [] }

  // Dinkelbach from the ratio of any choice upward: each round's choice is at least as good.
  let first = true
  for (;;) {
    const lambda: Rational = ratio
    const drop = lowest(droppable, items, k, lambda)
    const next =
      drop &&
      ratioOf(
        items.filter((i) => !drop.has(i)),
        bonusPoints,
      )
    if (!drop || !next) return null
    if (!first && compare(next, lambda) === 0) return { percent: times(HUNDRED, next), dropped: [...drop].map((i) => i.column) }
    ratio = next
    first = false
  }
}

function ratioOf(items: Item[], bonusPoints: Rational): Rational | null {
  let n = bonusPoints
  let w = ZERO
  for (const i of items) {
    n = plus(n, i.points)
    w = plus(w, i.worth)
  }
  return w.n === 0n ? null : over(n, w)
}

/** The k of `droppable` with the lowest points − worth·λ, the later one first among equals. */
function lowest(droppable: Item[], all: Item[], k: number, lambda: Rational): Set<Item> | null {
  const value = new Map(droppable.map((i) => [i, minus(i.points, times(i.worth, lambda))]))
  const sorted = [...droppable].sort((x, y) => compare(value.get(x)!, value.get(y)!) || y.rank - x.rank)
  const drop = new Set(sorted.slice(0, k))
  if (all.some((i) => !drop.has(i) && i.worth.n > 0n)) return drop
  // Everything that carries weight would go: keep the best of it, drop a weightless one instead.
  const back = sorted.filter((i) => drop.has(i) && i.worth.n > 0n).at(-1)
  const instead = sorted.find((i) => !drop.has(i))
  if (!back || !instead) return null
  drop.delete(back)
  drop.add(instead)
  return drop
}
