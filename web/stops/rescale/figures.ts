import { group } from 'd3-array'
import { gradeAt } from '#core/bounds'
import { compareGroups, meanOf } from '#core/compare'
import { actsOnMarks, adjuster, markMethodOf, type Adjustment, type ResultChange } from '#core/rescale'
import { standingOf } from '#core/trial'
import type { Assessment } from '#contract'
import { changeBetween, type CourseState } from '../../course/state'
import { LEVEL_SHARE, type Compared } from '../../parts/compared'
import { leansIn, type MarkerLean } from './leans-in'
import {
  comesOut,
  covers,
  goingInto,
  inOrder,
  likeMarks,
  stackItems,
  takenAnew,
  waysOf,
  withoutOwn,
  type StackItem,
  type Way,
} from './stack'
import { AT_NONE, subjectOf, type Subject } from './subject'

/** What a rescaling does to one section, beside how it compares. */
export type RescaledSection = Pick<Compared['sections'][number], 'id' | 'name' | 'lean' | 'passed'> & {
  mean: number | null
  /** As marked, before any rescaling. */
  plainMean: number | null
  plainPassed: number | null
  /** How many marks it has: one without any cannot be rescaled. */
  n: number
}

/** How the covered marks differ from those of the group that is matched. */
export interface Apart {
  difference: number | null
  interval: [low: number, high: number] | null
}

export interface RescaleFigures {
  subject: Subject
  stack: StackItem[]
  /** The adjustment that is looked at; null for the whole stack. */
  chosenId: string | null
  /** Marks as they go into what is looked at, and as they come out. */
  before: number[]
  after: number[]
  /** The highest of those going in, as a number or a fraction; null where there are none. */
  highest: string | null
  /** Marks as they go into it, by the section their students were in on the day. */
  bySection: Record<string, number[]>
  /** Marks of the group that is matched; null where none is. */
  like: number[] | null
  apart: Apart | null
  /** Each way a mark goes, once. */
  dots: { x: number; y: number }[]
  /** The map along the whole range; null where it is not one from mark to mark. */
  line: { x: number; y: number }[] | null
  /** How many more than before stand at the top and at nothing. */
  ends: { top: number; bottom: number }
  tolerance: number
  sections: RescaledSection[]
  /** Whether anything at all is rescaled. */
  rescaled: boolean
  /** What the trial’s adjustments here do; null where it has none. */
  change: ResultChange | null
  /** What the rest of the trial does; null where there is no more of it. */
  rest: Pick<ResultChange, 'up' | 'down' | 'percents'> | null
  /** How the markers of its readings lean. */
  leans: MarkerLean[]
}

function lastTried({ changes }: CourseState, { assessmentId }: Subject, stack: readonly Adjustment[]): Adjustment | undefined {
  const last = changes.findLast((c) => c.kind === 'adjust' && c.adjustment.assessmentId === assessmentId)
  return last?.kind === 'adjust' ? stack.find((a) => a.id === last.adjustment.id) : undefined
}

const LINE_POINTS = 121

/** The assessment whose marks came out lowest, of those with enough of them to tell. */
function hardest({ table, workings, adopted }: CourseState): Assessment | undefined {
  const share = new Map(
    table.assessments.map((a) => {
      const marks = standingOf(workings, adopted.standing, a.id).flatMap((s) => s.plain ?? [])
      return [a.id, marks.length < ENOUGH ? 1 : meanOf(marks)! / a.outOf]
    }),
  )
  return [...table.assessments].sort((a, b) => share.get(a.id)! - share.get(b.id)!)[0]
}
const ENOUGH = 5

/**
 * What is done to the marks of an assessment, or to the course percent, and what that does.
 * @param wanted the hardest assessment where none is named
 * @param looked the adjustment that is looked at; else the one that was tried last
 * @returns null where there is nothing to rescale
 */
export function rescaleFigures(state: CourseState, wanted: string | null, looked: string | null = null): RescaleFigures | null {
  const subject = subjectOf(state.table, wanted) ?? subjectOf(state.table, hardest(state)?.id ?? null)
  if (!subject) return null
  const { tried, changes, adopted, current } = state
  const ways = waysOf(state, subject)
  const items = stackItems(state, subject, ways)
  const stack = inOrder(tried.adjustments, subject.assessmentId)
  const chosen = looked === AT_NONE ? undefined : (stack.find((a) => a.id === looked) ?? lastTried(state, subject, stack))
  const shown = chosen ? ways.filter((w) => covers(chosen, w)) : ways
  const before = shown.map((w) => (chosen ? goingInto(w, stack, chosen.id) : w.plain))
  const after = shown.map((w, i) => (chosen ? (comesOut(w, chosen.id) ?? before[i]!) : goingInto(w, stack, null)))
  const like = chosen ? likeMarks(chosen, ways, stack) : null
  const { others, base } = withoutOwn(state, subject)
  return {
    subject,
    stack: items,
    chosenId: chosen?.id ?? null,
    before,
    after,
    highest: highestOf(state, subject, stack, chosen, before),
    bySection: Object.fromEntries(
      [...group(ways, (w) => w.sectionId)].map(([id, own]) => [id, own.map((w) => (chosen ? goingInto(w, stack, chosen.id) : w.plain))]),
    ),
    like,
    apart: like && apartOf(before, like),
    dots: dotsOf(before, after),
    line: chosen ? lineOf(chosen, before, subject) : null,
    ends: {
      top: standingAt(after, subject.outOf) - standingAt(before, subject.outOf),
      bottom: standingAt(after, 0) - standingAt(before, 0),
    },
    ...sectionsOf(state, subject, ways),
    rescaled: ways.some((w) => w.steps.length > 0),
    change: others.length < changes.length ? changeBetween(base, current) : null,
    rest: others.length > 0 ? changeBetween(adopted, base) : null,
    leans: subject.assessmentId === null ? [] : [...leansIn(state, subject.assessmentId).values()],
  }
}

/** Of course percents exactly: a fraction, which a double would only come near. */
function highestOf(
  { current }: CourseState,
  { assessmentId }: Subject,
  stack: readonly Adjustment[],
  chosen: Adjustment | undefined,
  before: readonly number[],
): string | null {
  if (assessmentId === null)
    return current.totalsUnder(stack.slice(0, chosen ? stack.indexOf(chosen) : stack.length).filter((a) => a.on)).highest
  return before.length === 0 ? null : String(before.reduce((a, b) => Math.max(a, b)))
}

const standingAt = (marks: readonly number[], at: number) => marks.filter((m) => m === at).length

function apartOf(covered: readonly number[], like: readonly number[]): Apart {
  const [own] = compareGroups([
    { id: 'covered', values: covered },
    { id: 'like', values: like },
  ]).groups
  return { difference: own!.difference, interval: own!.interval }
}

function lineOf(a: Adjustment, before: readonly number[], { outOf }: Subject): RescaleFigures['line'] {
  const { method } = a
  if (!actsOnMarks(method)) return null
  try {
    const change = adjuster({ ...a, method, step: null }, before)
    return Array.from({ length: LINE_POINTS }, (_, i) => Number(((outOf * i) / (LINE_POINTS - 1)).toFixed(4))).map((x) => ({
      x,
      y: change(x),
    }))
  } catch {
    return null
  }
}

function dotsOf(before: readonly number[], after: readonly number[]): RescaleFigures['dots'] {
  const seen = new Map<string, { x: number; y: number }>()
  before.forEach((x, i) => seen.set(`${x} ${after[i]!}`, { x, y: after[i]! }))
  return [...seen.values()]
}

function sectionsOf(state: CourseState, subject: Subject, ways: readonly Way[]): Pick<RescaleFigures, 'sections' | 'tolerance'> {
  const stack = inOrder(state.tried.adjustments, subject.assessmentId)
  const { sections, students } = state.table
  const sectionOf = new Map(students.map((s) => [s.id, s.sectionId]))
  const plain = new Map(sections.map((s) => [s.id, [] as number[]]))
  const rescaled = new Map(sections.map((s) => [s.id, [] as number[]]))
  for (const w of ways) {
    const section = sectionOf.get(w.studentId)!
    plain.get(section)?.push(w.plain)
    rescaled.get(section)?.push(goingInto(w, stack, null))
  }
  const passes = passing(state, subject)
  const passed = (marks: readonly number[]) => passes && marks.filter(passes).length
  const { groups } = compareGroups(sections.map(({ id }) => ({ id, values: rescaled.get(id)! })))
  return {
    tolerance: subject.outOf * LEVEL_SHARE,
    sections: sections.map(({ id, name }, i) => {
      const [own, now] = [plain.get(id)!, rescaled.get(id)!]
      return {
        id,
        name,
        lean: groups[i]!,
        passed: passed(now),
        mean: meanOf(now),
        plainMean: meanOf(own),
        plainPassed: passed(own),
        n: own.length,
      }
    }),
  }
}

/** Whether a mark, or a course percent, passes; null where nothing says what does. */
function passing({ tried }: CourseState, { assessmentId, passMark }: Subject): ((x: number) => boolean) | null {
  if (assessmentId !== null) return passMark === null ? null : (x) => x >= passMark
  const { boundaries, policy } = tried.course
  const lowest = boundaries.reduce((a, b) => (b.from < a.from ? b : a))
  return (x) => gradeAt(x, boundaries, policy.rounding) !== lowest.grade
}

/** The adjustments that would do the same in other assessments: on their scale, fixed by their own marks. */
export function copiesOf(state: CourseState, adjustmentId: string, assessmentIds: readonly string[]): Adjustment[] {
  const a = state.tried.adjustments.find((x) => x.id === adjustmentId)
  if (!a) return []
  return assessmentIds.flatMap((id): Adjustment[] => {
    const subject = subjectOf(state.table, id)
    if (!subject) return []
    const by = subject.outOf / a.outOf
    const method = actsOnMarks(a.method) ? markMethodOf(a.method.kind).scaled(a.method, by) : a.method
    const copy: Adjustment = { ...a, id: `${a.id}-${id}`, assessmentId: id, outOf: subject.outOf, method }
    const ways = waysOf(state, subject)
    const stack = [...inOrder(state.tried.adjustments, id), copy]
    return [takenAnew(state, copy, ways, stack)?.adjustment ?? copy]
  })
}
