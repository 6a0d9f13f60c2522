import Fraction from 'fraction.js'
import type { Course, MarkRow } from '../grades/course'
import type { TotalMethod } from '../rescale/methods'

/**
 * A second opinion for tests: the rules of the grade engine written again as plainly as can be, in a
 * library's exact fractions and by trying every choice of drops. Slow on purpose.
 */
export interface OracleResult {
  soFar: Fraction | null
  lowest: Fraction | null
  highest: Fraction | null
  final: Fraction | null
  adjusted: Fraction | null
  rounded: Fraction | null
  grade: string | null
  heldBy: number[]
  pending: number
  components: { componentId: string; percent: Fraction | null; dropped: string[] }[]
}

const F = (x: number | string | Fraction) => new Fraction(typeof x === 'number' ? String(x) : x)
type Scored = { id: string; f: Fraction; worth: Fraction; bonus: boolean; droppable: boolean; order: number }

export function oracle(course: Course, studentId: string): OracleResult {
  const { policy } = course
  const student = course.students.find((s) => s.id === studentId)!
  const rowOf = (assessmentId: string): MarkRow =>
    course.marks.find((m) => m.studentId === studentId && m.assessmentId === assessmentId) ?? {
      studentId,
      assessmentId,
      mark: null,
      status: 'in',
      daysLate: 0,
    }
  const late = (f: Fraction, row: MarkRow): Fraction => {
    if (row.status !== 'late' || policy.late.kind === 'none') return f
    const cut = F(policy.late.percent).div(100)
    if (policy.late.kind === 'cap') return f.compare(cut) < 0 ? f : cut
    const days = policy.late.maxDays === null ? row.daysLate : Math.min(row.daysLate, policy.late.maxDays)
    const left = f.sub(cut.mul(days))
    return left.compare(0) > 0 ? left : F(0)
  }
  /** Fraction, 'pending', or null where it does not apply. */
  const score = (a: Course['assessments'][number]): Fraction | 'pending' | null => {
    const row = rowOf(a.id)
    if (!a.counts || !course.placements.some((p) => p.assessmentId === a.id && p.sectionId === student.sectionId)) return null
    if (row.status === 'exempt' || (row.status === 'absent' && policy.absent.kind === 'exempt')) return null
    if (row.status === 'missing')
      return policy.missing.kind === 'zero' ? F(0) : policy.missing.kind === 'pending' ? 'pending' : F(policy.missing.percent).div(100)
    if (row.status === 'absent') return policy.absent.kind === 'zero' ? F(0) : 'pending'
    if (row.status === 'held' || row.mark === null) return 'pending'
    return late(F(row.mark).div(F(a.outOf)), row)
  }
  const combine = (c: Course['components'][number], list: Scored[]): { percent: Fraction | null; dropped: string[] } => {
    const weigh = (s: Scored) => (c.combine === 'equally' ? F(1) : s.worth)
    const ordinary = list.filter((s) => !s.bonus)
    const extra = list.filter((s) => s.bonus).reduce((t, s) => t.add(weigh(s).mul(s.f)), F(0))
    const droppable = ordinary.filter((s) => s.droppable)
    const k = Math.max(0, Math.min(c.dropLowest, droppable.length, ordinary.length - 1))
    let best: { percent: Fraction; drop: Scored[] } | null = null
    for (const drop of subsets(droppable, k)) {
      const kept = ordinary.filter((s) => !drop.includes(s))
      const under = kept.reduce((t, s) => t.add(weigh(s)), F(0))
      if (under.equals(0)) continue
      const percent = kept
        .reduce((t, s) => t.add(weigh(s).mul(s.f)), extra)
        .div(under)
        .mul(100)
      const order = best ? percent.compare(best.percent) : 1
      if (order > 0 || (order === 0 && later(drop, best!.drop))) best = { percent, drop }
    }
    return { percent: best?.percent ?? null, dropped: (best?.drop ?? []).sort((x, y) => x.order - y.order).map((s) => s.id) }
  }
  const total = (pendingAs: number | null): { t: Fraction | null; components: OracleResult['components'] } => {
    let sum = F(0)
    let weights = F(0)
    let bonus = F(0)
    const components = course.components.map((c) => {
      const list: Scored[] = []
      course.assessments.forEach((a, order) => {
        if (a.componentId !== c.id) return
        const s = score(a)
        if (s === null || (s === 'pending' && pendingAs === null)) return
        const f = s === 'pending' ? (pendingAs === 0 ? F(0) : late(F(1), rowOf(a.id))) : s
        list.push({ id: a.id, f, worth: F(a.worth), bonus: a.bonus, droppable: a.droppable, order })
      })
      const { percent, dropped } = combine(c, list)
      if (percent) {
        if (c.bonus) bonus = bonus.add(percent.mul(F(c.weight)).div(100))
        else {
          sum = sum.add(percent.mul(F(c.weight)))
          weights = weights.add(F(c.weight))
        }
      }
      return { componentId: c.id, percent, dropped }
    })
    if (weights.equals(0)) return { t: null, components }
    let t = sum.div(weights).add(bonus)
    if (policy.above100 === 'cap' && t.compare(100) > 0) t = F(100)
    if (t.compare(0) < 0) t = F(0)
    return { t, components }
  }
  /** The lowest of the grade given and of what each unmet condition leaves. */
  const holdBack = (given: Course['boundaries'][number] | null) => {
    const heldBy: number[] = []
    let held = given
    course.conditions?.forEach((c, i) => {
      if (!given) return
      let has: Fraction | null
      if ('componentId' in c) has = total(null).components.find((x) => x.componentId === c.componentId)!.percent
      else {
        const f = score(course.assessments.find((a) => a.id === c.assessmentId)!)
        has = f === null || f === 'pending' ? null : f.mul(100)
      }
      const limit = course.boundaries.find((b) => b.grade === c.atMost)!
      if (!has || has.compare(F(c.least)) >= 0 || limit.from >= given.from) return
      heldBy.push(i)
      if (limit.from < held!.from) held = limit
    })
    return { held, heldBy }
  }
  const pending = course.assessments.filter((a) => score(a) === 'pending').length
  const soFar = total(null)
  const final = pending === 0 ? soFar.t : null
  const adjusted = final === null ? null : adjust(course, final)
  const rounded = adjusted === null ? null : policy.rounding ? halfUp(adjusted, policy.rounding.decimals) : adjusted
  let grade: Course['boundaries'][number] | null = null
  for (const b of course.boundaries) if (rounded && rounded.compare(F(b.from)) >= 0 && (!grade || b.from > grade.from)) grade = b
  const { held, heldBy } = holdBack(grade)
  return {
    soFar: soFar.t,
    lowest: total(0).t,
    highest: total(1).t,
    final,
    adjusted,
    rounded,
    grade: held?.grade ?? null,
    heldBy,
    pending,
    components: soFar.components,
  }
}

/** Everybody’s percent goes through every adjustment in turn, for the highest may decide. */
function adjust(course: Course, final: Fraction): Fraction {
  const { adjustments = [], ...plain } = course
  if (adjustments.length === 0) return final
  let own = final
  let all = course.students.flatMap((s) => oracle(plain, s.id).final ?? [])
  for (const { method, neverLower } of adjustments) {
    const top = all.reduce((a, b) => (a.compare(b) > 0 ? a : b))
    const map = (x: Fraction): Fraction => {
      const y = mapped(method, x, top)
      return neverLower && y.compare(x) < 0 ? x : y
    }
    own = map(own)
    all = all.map(map)
  }
  if (own.compare(0) < 0) own = F(0)
  return course.policy.above100 === 'cap' && own.compare(100) > 0 ? F(100) : own
}

function mapped(method: TotalMethod, x: Fraction, top: Fraction): Fraction {
  switch (method.kind) {
    case 'add':
      return x.add(F(method.by))
    case 'multiply':
      return x.mul(F(method.by))
    case 'topTo':
      return x.add(F(method.to)).sub(method.highest === undefined ? top : new Fraction(method.highest))
    case 'line':
      return onLine(x, [method.from, method.to])
    case 'curve': {
      const { points } = method
      const above = points.findIndex(([at]) => x.compare(F(at)) <= 0)
      if (above > 0) return onLine(x, [points[above - 1]!, points[above]!])
      const [at, becomes] = above === 0 ? points[0]! : points.at(-1)!
      return x.add(F(becomes)).sub(F(at))
    }
  }
}

const onLine = (x: Fraction, [[a, b], [c, d]]: [[number, number], [number, number]]): Fraction =>
  F(b).add(
    x
      .sub(F(a))
      .mul(F(d).sub(F(b)))
      .div(F(c).sub(F(a))),
  )

function halfUp(x: Fraction, decimals: number): Fraction {
  const scale = 10 ** decimals
  return x.mul(scale).add('1/2').floor().div(scale)
}

function subsets<T>(list: T[], k: number): T[][] {
  if (k === 0) return [[]]
  return list.flatMap((x, i) => subsets(list.slice(i + 1), k - 1).map((rest) => [x, ...rest]))
}

/** Of two equally good choices the one that drops the later assessments. */
function later(a: Scored[], b: Scored[]): boolean {
  const down = (list: Scored[]) => list.map((s) => s.order).sort((x, y) => y - x)
  const [x, y] = [down(a), down(b)]
  const at = x.findIndex((v, i) => v !== y[i])
  return at >= 0 && x[at]! > y[at]!
}
