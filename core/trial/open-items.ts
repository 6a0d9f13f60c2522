import { spreadOf, withinTolerance } from '../agree/agree-mark'
import { checkBoundaries } from '../grades/check-boundaries'
import type { CourseResult } from '../grades/course'
import { appliesIn } from '../roll/applying'
import { hasWork, standingMarks, type StandingMark, type Workings } from './workings'

export type Stop = 'set-out' | 'agree' | 'mark' | 'compare' | 'reconcile' | 'rescale' | 'bound' | 'confirm'

/** Something not yet clear, at the stop where it is cleared. */
export interface OpenItem {
  stop: Stop
  kind: 'weight' | 'placement' | 'unmarked' | 'held' | 'readings' | 'clash' | 'spread' | 'unsettled' | 'boundaries'
  /** Nothing can be confirmed while a blocking item is open. */
  blocking: boolean
  /** What it is about: assessments, components, scripts. */
  refs: string[]
  count: number
}

export interface PlanFacts {
  /** Component id → weight as typed; null where it was never typed in. */
  weights: Record<string, number | null>
  /** Assessment id → worth as typed. */
  worths: Record<string, number | null>
  /** Assessment id → tolerance for the spread of readings, in its marks. */
  tolerances: Record<string, number>
}

/** What is still open in a course, in the order of the run. */
export function openItems(w: Workings, facts: PlanFacts, standing: StandingMark[] = standingMarks(w)): OpenItem[] {
  const items: OpenItem[] = []
  const add = (stop: Stop, kind: OpenItem['kind'], blocking: boolean, refs: string[]) => {
    if (refs.length > 0) items.push({ stop, kind, blocking, refs, count: refs.length })
  }
  const { course } = w
  add('set-out', 'weight', true, [
    ...course.components.filter((c) => facts.weights[c.id] === null).map((c) => c.id),
    ...course.assessments.filter((a) => a.counts && facts.worths[a.id] === null).map((a) => a.id),
  ])
  const placed = new Set(course.placements.map((p) => p.assessmentId))
  add(
    'set-out',
    'placement',
    false,
    course.assessments.filter((a) => a.counts && !placed.has(a.id)).map((a) => a.id),
  )

  const counting = new Set(course.assessments.filter((a) => a.counts).map((a) => a.id))
  const applies = appliesIn({ ...course, stays: w.stays, leftOut: w.leftOut })
  const open = standing.filter((s) => counting.has(s.assessmentId) && applies(s.studentId, s.assessmentId))
  const unmarked = open.filter((s) => s.status !== 'held' && hasWork(s.status) && s.source === 'none')
  const byAssessment = new Map<string, string[]>()
  for (const s of unmarked) {
    const list = byAssessment.get(s.assessmentId)
    if (list) list.push(s.scriptId)
    else byAssessment.set(s.assessmentId, [s.scriptId])
  }
  for (const scripts of byAssessment.values()) add('mark', 'unmarked', false, scripts)
  add(
    'mark',
    'held',
    false,
    open.filter((s) => s.status === 'held').map((s) => s.scriptId),
  )

  const { clash, overTolerance, within, thin } = readingQueue(w, facts.tolerances, standing)
  add('mark', 'readings', false, thin)
  add('reconcile', 'clash', true, clash)
  add('reconcile', 'spread', true, overTolerance)
  add('reconcile', 'unsettled', true, within)
  if (checkBoundaries(course.boundaries, course.policy.above100).length > 0) add('bound', 'boundaries', true, ['boundaries'])
  return items
}

/** Scripts that wait to be settled: those with a typed mark that their readings do not bear out, those over tolerance, those within it, and those with too few readings. */
export function readingQueue(
  w: Workings,
  tolerances: Record<string, number>,
  standing: StandingMark[],
): { clash: string[]; overTolerance: string[]; within: string[]; thin: string[] } {
  const readings = new Map<string, Workings['readings']>()
  for (const r of w.readings) {
    const list = readings.get(r.scriptId)
    if (list) list.push(r)
    else readings.set(r.scriptId, [r])
  }
  const queue = { clash: [] as string[], overTolerance: [] as string[], within: [] as string[], thin: [] as string[] }
  for (const s of standing) {
    if (s.source === 'agreed' || !hasWork(s.status)) continue
    const own = readings.get(s.scriptId)
    if (!own) continue
    const wanted = w.readingsWanted[s.assessmentId] ?? 1
    const spread = spreadOf(own)
    if (s.source === 'clash') queue.clash.push(s.scriptId)
    else if (own.length < wanted) queue.thin.push(s.scriptId)
    else if (spread !== null && !withinTolerance(spread, tolerances[s.assessmentId] ?? 0)) queue.overTolerance.push(s.scriptId)
    else if (wanted > 1) queue.within.push(s.scriptId)
  }
  return queue
}

/** How many students have a final, of how many. */
export function finals(result: CourseResult): { final: number; of: number } {
  return { final: result.students.filter((s) => s.final !== null).length, of: result.students.length }
}
