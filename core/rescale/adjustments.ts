import { compare, least, minus, most, over, plus, rationalOf, roundToStep, times, toNumber, ZERO, type Rational } from '../grades/rational'

export type AdjustmentMethod =
  | { kind: 'add'; by: number }
  | { kind: 'multiply'; by: number }
  | { kind: 'topTo'; to: number }
  | { kind: 'line'; from: [number, number]; to: [number, number] }
  | { kind: 'curve'; points: [number, number][] }

export interface Adjustment {
  id: string
  assessmentId: string
  /** What the assessment is marked out of: the range to keep within. */
  outOf: number
  /** The sections it covers; null for all. */
  sectionIds: string[] | null
  method: AdjustmentMethod
  /** Switched off ones stay in the stack and do nothing. */
  on: boolean
  neverLower: boolean
  /** Keep within 0..outOf, or let a mark rise above. Marks below 0 that were there (deductions) stay. */
  above: 'keep within' | 'allow'
  /** Round half up to a multiple of it; null leaves it as it comes out. */
  step: number | null
}

export interface AdjustableMark {
  studentId: string
  assessmentId: string
  sectionId: string
  mark: number | null
}

export type AdjustedMark = AdjustableMark & {
  /** The mark before any adjustment. */
  plain: number | null
  /** What each adjustment made of it, in order. */
  steps: { adjustmentId: string; mark: number }[]
}

/** An adjustment that makes no sense; the message says what to do. */
export class AdjustmentError extends Error {
  override name = 'AdjustmentError'
}

/**
 * Runs marks through an ordered stack of adjustments. The original stays beside the result, blanks stay
 * blank, and the arithmetic is exact, so that a step or a boundary is met where it should be.
 * @throws AdjustmentError for a line without width or a curve that does not rise
 */
export function applyAdjustments(marks: readonly AdjustableMark[], adjustments: readonly Adjustment[]): AdjustedMark[] {
  const result: AdjustedMark[] = marks.map((m) => ({ ...m, plain: m.mark, steps: [] }))
  for (const adjustment of adjustments) {
    if (!adjustment.on) continue
    const sections = adjustment.sectionIds && new Set(adjustment.sectionIds)
    const covered = result.filter(
      (m) => m.mark !== null && m.assessmentId === adjustment.assessmentId && (!sections || sections.has(m.sectionId)),
    )
    const change = adjuster(
      adjustment,
      covered.map((m) => m.mark!),
    )
    for (const m of covered) {
      m.mark = change(m.mark!)
      m.steps.push({ adjustmentId: adjustment.id, mark: m.mark })
    }
  }
  return result
}

/**
 * One adjustment as a function of a mark, with its options.
 * @param marks the marks it covers, which `topTo` needs
 */
export function adjuster(
  a: Omit<Adjustment, 'id' | 'sectionIds' | 'on' | 'assessmentId'>,
  marks: readonly number[],
): (mark: number) => number {
  const map = methodMap(a.method, marks)
  const top = rationalOf(a.outOf)
  const step = a.step === null ? null : rationalOf(a.step)
  const change = (mark: number) => {
    const before = rationalOf(mark)
    let after = map(before)
    if (step) after = roundToStep(after, step)
    if (a.above === 'keep within') after = least(most(top, before), most(after, least(ZERO, before)))
    if (a.neverLower) after = most(before, after)
    return toNumber(after)
  }
  // Exact arithmetic is slow, and of thousands of marks few are different.
  const known = new Map<number, number>()
  return (mark) => {
    const before = known.get(mark)
    if (before !== undefined) return before
    const after = change(mark)
    known.set(mark, after)
    return after
  }
}

function methodMap(method: AdjustmentMethod, marks: readonly number[]): (x: Rational) => Rational {
  switch (method.kind) {
    case 'add': {
      const by = finite(method.by)
      return (x) => plus(x, by)
    }
    case 'multiply': {
      const by = finite(method.by)
      return (x) => times(x, by)
    }
    case 'topTo': {
      if (marks.length === 0) return (x) => x
      const by = minus(finite(method.to), rationalOf(marks.reduce((a, b) => Math.max(a, b))))
      return (x) => plus(x, by)
    }
    case 'line': {
      const [a, b] = method.from.map(finite) as [Rational, Rational]
      const [c, d] = method.to.map(finite) as [Rational, Rational]
      if (compare(a, c) === 0) throw new AdjustmentError('The two points of the line need different marks to start from.')
      const slope = over(minus(d, b), minus(c, a))
      if (slope.n < 0n) throw new AdjustmentError('The line falls: a higher mark would become a lower one.')
      return (x) => plus(b, times(minus(x, a), slope))
    }
    case 'curve':
      return curveMap(method.points)
  }
}

/** Straight between the points; beyond the ends a mark keeps the distance that the end point was moved. */
function curveMap(points: [number, number][]): (x: Rational) => Rational {
  if (points.length < 2) throw new AdjustmentError('A curve needs two points or more.')
  const exact = points.map(([x, y]) => [finite(x), finite(y)] as const)
  for (let i = 1; i < exact.length; i++) {
    if (compare(exact[i]![0], exact[i - 1]![0]) <= 0)
      throw new AdjustmentError(`Point ${i + 1} starts at ${points[i]![0]}, not above point ${i}: points go from low to high.`)
    if (compare(exact[i]![1], exact[i - 1]![1]) < 0)
      throw new AdjustmentError(`Point ${i + 1} gives ${points[i]![1]}, below point ${i}: a higher mark would become a lower one.`)
  }
  return (x) => {
    const after = exact.findIndex(([px]) => compare(x, px) <= 0)
    const end = after === 0 ? exact[0]! : after === -1 ? exact.at(-1)! : null
    if (end) return plus(x, minus(end[1], end[0]))
    const [x1, y1] = exact[after]!
    const [x0, y0] = exact[after - 1]!
    return plus(y0, times(minus(x, x0), over(minus(y1, y0), minus(x1, x0))))
  }
}

function finite(x: number): Rational {
  if (!Number.isFinite(x)) throw new AdjustmentError('An adjustment needs a number in every field.')
  return rationalOf(x)
}
