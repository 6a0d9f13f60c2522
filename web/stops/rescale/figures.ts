import { describe } from '#core/compare'
import { applyChanges, standingMarks, standingOf, type Change, type StandingMark, type Workings } from '#core/trial'
import type { Assessment } from '#contract'
import type { CourseState } from '../../course/state'
import { compareSections, type Compared } from '../../parts/compared'

/** What a rescaling does to one section, beside how it compares. */
export type RescaledSection = Pick<Compared['sections'][number], 'id' | 'name' | 'lean' | 'passed'> & {
  mean: number | null
  /** As marked, before any rescaling. */
  plainMean: number | null
  plainPassed: number | null
}

export interface RescaleFigures {
  assessmentId: string
  /** Marks as they go into what is tried: after the stack before it. */
  before: number[]
  /** As they come out. */
  after: number[]
  /** Each way a mark goes, once. */
  dots: { x: number; y: number }[]
  tolerance: number
  sections: RescaledSection[]
  /** Whether anything at all is rescaled. */
  rescaled: boolean
}

/** The adjustment of an assessment that a trial tries; null for none. */
export function triedOn(
  { adjustments }: Pick<Workings, 'adjustments'>,
  changes: readonly Change[],
  assessmentId: string,
): Extract<Change, { kind: 'adjust' }> | null {
  const own = changes.find(
    (c) => c.kind === 'adjust' && c.adjustment.assessmentId === assessmentId && !adjustments.some((a) => a.id === c.adjustment.id),
  )
  return own?.kind === 'adjust' ? own : null
}

/** The assessment whose marks came out lowest, of those with enough of them to tell. */
function hardest({ table, workings, adopted }: CourseState): Assessment | undefined {
  const share = new Map(
    table.assessments.map((a) => {
      const marks = standingOf(workings, adopted.standing, a.id).flatMap((s) => s.plain ?? [])
      return [a.id, marks.length < ENOUGH ? 1 : describe(marks).mean! / a.outOf]
    }),
  )
  return [...table.assessments].sort((a, b) => share.get(a.id)! - share.get(b.id)!)[0]
}
const ENOUGH = 5
/** What other work says of sections is asked at Compare. */
const NO_OTHERS: string[] = []

/** What is tried on an assessment and what it does; of the hardest one where none is named, null where there is none. */
export function rescaleFigures(state: CourseState, wanted: string | null): RescaleFigures | null {
  const { table, workings, tried, current, changes } = state
  const assessment = table.assessments.find((a) => a.id === wanted) ?? hardest(state)
  if (!assessment) return null
  const own = triedOn(workings, changes, assessment.id)
  const after = standingOf(tried, current.standing, assessment.id)
  const before = own ? without(state, own, assessment.id) : after.map((s) => ({ ...s, mark: s.plain }))
  const { sections, tolerance } = compareSections(state, assessment.id, NO_OTHERS)
  const plainOf = new Map(sections.map((s) => [s.id, [] as number[]]))
  const sectionOf = new Map(table.students.map((s) => [s.id, s.sectionId]))
  for (const s of after) if (s.plain !== null) plainOf.get(sectionOf.get(s.studentId)!)!.push(s.plain)
  const passed = (marks: number[]) => (assessment.passMark === null ? null : marks.filter((m) => m >= assessment.passMark!).length)
  return {
    assessmentId: assessment.id,
    before: before.flatMap((s) => s.mark ?? []),
    after: after.flatMap((s) => s.mark ?? []),
    dots: waysOf(before, after),
    tolerance,
    sections: sections.map(({ id, name, lean, passed: now, figures }) => ({
      id,
      name,
      lean,
      passed: now,
      mean: figures.mean,
      plainMean: describe(plainOf.get(id)!).mean,
      plainPassed: passed(plainOf.get(id)!),
    })),
    rescaled: after.some((s) => s.mark !== s.plain),
  }
}

/** What would stand without one change. */
function without({ workings, changes }: CourseState, own: Change, assessmentId: string): StandingMark[] {
  const others = applyChanges(
    workings,
    changes.filter((c) => c !== own),
  )
  return standingOf(others, standingMarks(others), assessmentId)
}

function waysOf(before: readonly StandingMark[], after: readonly StandingMark[]): RescaleFigures['dots'] {
  const out = new Map(after.map((s) => [s.cell, s.mark]))
  const seen = new Map<string, { x: number; y: number }>()
  for (const s of before) {
    const y = out.get(s.cell)
    if (s.mark !== null && y !== null && y !== undefined) seen.set(`${s.mark} ${y}`, { x: s.mark, y })
  }
  return [...seen.values()]
}
