import { CourseError, type Assessment, type Component, type Course, type MarkRow } from './course'
import { gradeCourse } from './grade-course'

export interface EffectiveWeight {
  assessmentId: string
  /** Share of the course percent, 0..1; null for a bonus. */
  share: number | null
  /** Points of the course percent a bonus can add; null for an ordinary assessment. */
  points: number | null
}

export interface SectionWeights {
  sectionId: string
  weights: EffectiveWeight[]
}

const sectionsOf = (course: Course): string[] => [
  ...new Set([...course.students.map((s) => s.sectionId), ...course.placements.map((p) => p.sectionId)]),
]

interface Carried {
  component: Component
  ordinary: Assessment[]
  bonus: Assessment[]
  /** Sum of the ordinary ones' weights inside the component. */
  inside: number
}

const insideOf = (c: Component, a: Assessment) => (c.combine === 'equally' ? 1 : a.worth)

function placedIn(course: Course): Map<string, Set<string>> {
  const placed = new Map<string, Set<string>>()
  for (const p of course.placements) {
    const own = placed.get(p.sectionId)
    if (own) own.add(p.assessmentId)
    else placed.set(p.sectionId, new Set([p.assessmentId]))
  }
  return placed
}

/** The components that carry something where these assessments are placed, with those that count. */
function carriedIn(course: Course, placed: ReadonlySet<string> = new Set()): Carried[] {
  return course.components
    .map((component): Carried => {
      const all = course.assessments.filter((a) => a.componentId === component.id && a.counts && placed.has(a.id))
      const ordinary = all.filter((a) => !a.bonus)
      return { component, ordinary, bonus: all.filter((a) => a.bonus), inside: ordinary.reduce((s, a) => s + insideOf(component, a), 0) }
    })
    .filter((c) => c.inside > 0)
}

/**
 * What share of the course percent each assessment carries, with everything scored and nothing dropped, per
 * section: (W_c/ΣW)·(worth/Σworth), or (W_c/ΣW)/n where all count the same. The shares of a section's
 * ordinary assessments sum to 1. An assessment that does not count there is not listed.
 */
export function effectiveWeights(course: Course): SectionWeights[] {
  const placed = placedIn(course)
  return sectionsOf(course).map((sectionId) => {
    const carried = carriedIn(course, placed.get(sectionId))
    const total = carried.reduce((s, c) => (c.component.bonus ? s : s + c.component.weight), 0)
    const of = new Map<string, EffectiveWeight>()
    for (const { component, ordinary, bonus, inside } of carried) {
      const share = component.bonus ? null : total > 0 ? component.weight / total : 0
      // A bonus component's weight is itself in points of the course percent.
      const points = share === null ? component.weight : share * 100
      for (const a of ordinary) {
        const part = insideOf(component, a) / inside
        of.set(a.id, { assessmentId: a.id, share: share === null ? null : share * part, points: share === null ? points * part : null })
      }
      for (const a of bonus) of.set(a.id, { assessmentId: a.id, share: null, points: (points * insideOf(component, a)) / inside })
    }
    return { sectionId, weights: course.assessments.flatMap((a) => of.get(a.id) ?? []) }
  })
}

export interface ProofRow {
  /** The assessments given nothing: one, or a second one beside it where the first is dropped. */
  zeroed: string[]
  standsAt: number
  fallsBy: number
  /** The fall that the plan promises. */
  expected: number
  holds: boolean
}

export interface WeightProof {
  sectionId: string
  /** Where the made-up student with full marks stands: 100 in a plan that adds up. */
  full: number | null
  rows: ProofRow[]
  holds: boolean
}

/**
 * The proof people can run: a made-up student with full marks, then nothing for one assessment at a time,
 * through the real engine. The fall must be the effective weight, or 0 where the component drops it; then a
 * second zero is shown beside it. Bonus work is left at nothing throughout, and proved by what it adds
 * (a negative fall).
 * @throws CourseError for a section with no placement
 */
export function weightProof(course: Course, sectionId: string): WeightProof {
  const set = placedIn(course).get(sectionId) ?? new Set<string>()
  const carried = carriedIn(course, set)
  if (carried.length === 0) throw new CourseError(`Nothing that counts is set for section ${sectionId}.`, 'sectionId')
  const placed = course.assessments.filter((a) => a.counts && set.has(a.id))
  const carrying = new Set(carried.flatMap((c) => [...c.ordinary, ...c.bonus]).map((a) => a.id))
  const bonusIds = new Set(carried.flatMap((c) => (c.component.bonus ? [...c.ordinary, ...c.bonus] : c.bonus)).map((a) => a.id))
  const here = {
    ...course,
    policy: { ...course.policy, above100: 'allow' as const },
    placements: [...set].map((assessmentId) => ({ assessmentId, sectionId })),
  }
  const standing = (exceptions: Set<string>): number | null => {
    const marks = placed.map((a): MarkRow => ({
      studentId: 'proof',
      assessmentId: a.id,
      mark: carrying.has(a.id) && bonusIds.has(a.id) === exceptions.has(a.id) ? a.outOf : 0,
      status: 'in',
      daysLate: 0,
    }))
    return gradeCourse({ ...here, students: [{ id: 'proof', sectionId }], marks, boundaries: [], conditions: [] }).students[0]!.final
  }
  const full = standing(new Set())
  if (full === null) return { sectionId, full, rows: [], holds: false }

  const total = carried.reduce((s, c) => (c.component.bonus ? s : s + c.component.weight), 0)
  const rows: ProofRow[] = []
  for (const c of carried) {
    const points = c.component.bonus ? c.component.weight : (100 * c.component.weight) / total
    const all = [...c.ordinary, ...c.bonus]
    for (const a of all) {
      rows.push(proofRow([a], c, points, full, standing, bonusIds))
      const absorbed = !bonusIds.has(a.id) && droppedOf(c, [a]).includes(a)
      const partner = absorbed && c.component.dropLowest === 1 ? c.ordinary.find((b) => b !== a && b.droppable) : undefined
      if (partner) rows.push(proofRow([a, partner], c, points, full, standing, bonusIds))
    }
  }
  return { sectionId, full, rows, holds: rows.every((r) => r.holds) }
}

function proofRow(
  zeroed: Assessment[],
  c: Carried,
  points: number,
  full: number,
  standing: (exceptions: Set<string>) => number | null,
  bonusIds: Set<string>,
): ProofRow {
  const ids = zeroed.map((a) => a.id)
  const standsAt = standing(new Set(ids))!
  const expected = expectedFall(zeroed, c, points, bonusIds)
  return { zeroed: ids, standsAt, fallsBy: full - standsAt, expected, holds: Math.abs(full - standsAt - expected) < 1e-9 }
}

/** The fall by the plan alone, without the engine. */
function expectedFall(zeroed: Assessment[], c: Carried, points: number, bonusIds: Set<string>): number {
  const weigh = (list: Assessment[]) => list.reduce((s, a) => s + insideOf(c.component, a), 0)
  const base = (without: Assessment[]) => weigh(c.ordinary.filter((a) => !without.includes(a)))
  if (bonusIds.has(zeroed[0]!.id))
    return (-points * weigh(zeroed.filter((a) => !droppedBeside(c, a).includes(a)))) / base(droppedBeside(c, zeroed[0]!))
  const dropped = droppedOf(c, zeroed)
  return (points * weigh(zeroed.filter((a) => !dropped.includes(a)))) / base(dropped)
}

/** What is dropped when a bonus stands at full marks: the weightiest of the rest, which leaves the bonus the greatest part. */
function droppedBeside(c: Carried, bonus: Assessment): Assessment[] {
  const droppable = c.ordinary.filter((a) => a.droppable)
  const k = Math.max(0, Math.min(c.component.dropLowest, droppable.length, c.ordinary.length - 1))
  const rest = droppable.filter((a) => a !== bonus).sort((a, b) => insideOf(c.component, b) - insideOf(c.component, a))
  return [...rest, ...droppable.filter((a) => a === bonus)].slice(0, k)
}

/** With full marks elsewhere the zeros go first, the weightiest first; then the lightest of the rest, which keeps most. */
function droppedOf(c: Carried, zeroed: Assessment[]): Assessment[] {
  const droppable = c.ordinary.filter((a) => a.droppable)
  const k = Math.max(0, Math.min(c.component.dropLowest, droppable.length, c.ordinary.length - 1))
  const weight = (a: Assessment) => insideOf(c.component, a)
  const zeros = droppable.filter((a) => zeroed.includes(a)).sort((a, b) => weight(b) - weight(a))
  const rest = droppable.filter((a) => !zeroed.includes(a)).sort((a, b) => weight(a) - weight(b))
  return [...zeros, ...rest].slice(0, k)
}
