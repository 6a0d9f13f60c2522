import { density, describe } from '#core/compare'
import { effectiveWeights, STATUSES, spreadRemainder, uncommonSections, type Course } from '#core/grades'
import { compareResults, type Adjustment } from '#core/rescale'
import { applyChanges, NO_SCRIPT, planForGrades, type Change, type Standing, type Workings } from '#core/trial'
import type { CourseState } from '../../../course/state'
import type { Outcome } from '../../../course/state'
import { numeral, fixed } from '../../../parts/format'

export interface WeighedAssessment {
  id: string
  title: string
  componentId: string
  /** Share of the course percent that the plan gives it in most sections, 0..1; null for a bonus. */
  should: number | null
  /** Sections where the plan carries another share. */
  elsewhere: { sectionId: string; name: string; share: number }[]
  /** Share of how the finals differ that came from it; null where they do not differ. */
  decides: number | null
  /** Of its marks, in percent of what it is out of. */
  sd: number | null
  /** It decides much more, or much less, than it should. */
  off: boolean
}

/** Something that could be done, with what it would come to. */
export interface Offer {
  words: string
  changes: Change[]
  /** What the assessments it is about would decide then, together. */
  decides: number | null
  moves: number
  /** How many marks would newly meet at the top or at nothing. */
  ends: number
}

export interface WeightsFigures {
  rows: WeighedAssessment[]
  finals: number
  chosen: {
    row: WeighedAssessment
    /** The other assessments of its component that the plan treats like it, and it. */
    together: string[]
    decidesTogether: number | null
    shouldTogether: number | null
    /** Shapes of its marks, and of those of all other work, in percent. */
    own: { x: number; y: number }[]
    rest: { x: number; y: number }[]
    restSd: number | null
    offers: Offer[]
  } | null
  /** Sections whose plan carries something else, in sentences. */
  odd: { sectionId: string; name: string; lacks: string[]; alone: string[]; differs: { title: string; share: number }[] }[]
}

/** Off by a third and by two points of the course percent: less is how marks fall. */
const OFF_SHARE = 1 / 3
const OFF_POINTS = 0.02
/** Nearer by less than this is no nearer. */
const NEARER = 0.001
const SHAPE_POINTS = 80

/** What each assessment should carry, carries in each section, and really decides. */
export function weightsFigures(state: CourseState, wanted: string | null): WeightsFigures {
  const { table, tried, current } = state
  const course = { ...planForGrades(tried), marks: [] }
  const percents = percentsOf(tried, current.standing)
  const rows = weigh(state, course, current, percents)
  const titles = new Map(table.assessments.map((a) => [a.id, a.title]))
  const weights = effectiveWeights(course)
  const [first] = [...rows].sort((a, b) => Math.abs((b.decides ?? 0) - (b.should ?? 0)) - Math.abs((a.decides ?? 0) - (a.should ?? 0)))
  const row = rows.find((r) => r.id === wanted) ?? first
  return {
    rows,
    finals: current.result.students.filter((s) => s.final !== null).length,
    chosen: row ? closeUp(state, course, percents, rows, row) : null,
    odd: uncommonSections(course, weights).flatMap((u) => {
      const section = table.sections.find((s) => s.id === u.sectionId)
      const named = (ids: readonly string[]) => ids.map((id) => titles.get(id) ?? id)
      const differs = u.differs.map((d) => ({ title: titles.get(d.assessmentId) ?? '', share: d.share }))
      // Who is left out of something stands in a section of their own, and is no section.
      return section ? [{ sectionId: section.id, name: section.name, lacks: named(u.lacks), alone: named(u.alone), differs }] : []
    }),
  }
}

function weigh({ table }: CourseState, course: Course, outcome: Outcome, percents: Percents): WeighedAssessment[] {
  const decides = new Map(outcome.decides().map((w) => [w.assessmentId, w.share]))
  const weights = effectiveWeights(course).filter((w) => table.sections.some((s) => s.id === w.sectionId))
  return table.assessments
    .filter((a) => course.assessments.find((x) => x.id === a.id)?.counts)
    .map(({ id, title, componentId }): WeighedAssessment => {
      const shares = weights.map((w) => w.weights.find((x) => x.assessmentId === id)?.share ?? null)
      const should = commonest(shares)
      const own = decides.get(id) ?? null
      return {
        id,
        title,
        componentId,
        should,
        elsewhere: weights.flatMap(({ sectionId }, i) => {
          const share = shares[i] ?? null
          if (share === null || should === null || Math.abs(share - should) < 1e-6) return []
          return [{ sectionId, name: table.sections.find((s) => s.id === sectionId)!.name, share }]
        }),
        decides: own,
        sd: describe(percents.get(id) ?? []).sd,
        off: isOff(should, own),
      }
    })
}

function isOff(should: number | null, decides: number | null): boolean {
  if (should === null || decides === null) return false
  const away = Math.abs(decides - should)
  return away > OFF_POINTS && away > should * OFF_SHARE
}

const total = (rows: readonly WeighedAssessment[], of: (row: WeighedAssessment) => number | null): number =>
  rows.reduce((s, r) => s + (of(r) ?? 0), 0)

function commonest(shares: readonly (number | null)[]): number | null {
  const times = new Map<string, { share: number; n: number }>()
  for (const share of shares) {
    if (share === null) continue
    const key = share.toFixed(9)
    times.set(key, { share, n: (times.get(key)?.n ?? 0) + 1 })
  }
  return [...times.values()].sort((a, b) => b.n - a.n)[0]?.share ?? null
}

type Percents = ReadonlyMap<string, number[]>

/** Marks that count by assessment, in percent of what it is out of. */
function percentsOf({ course, cells, scripts }: Workings, { mark }: Standing): Percents {
  return new Map(
    course.assessments.map(({ id, outOf }, at) => {
      const own: number[] = []
      for (let cell = at; cell < cells.count; cell += cells.width)
        if (COUNTS[scripts.status[cell]!] && mark[cell] === mark[cell]) own.push((100 * mark[cell]!) / outOf)
      return [id, own]
    }),
  )
}

/** Whether a mark with that status is the student’s own. */
const COUNTS = STATUSES.map((s) => s === 'in' || s === 'late')

function closeUp(
  state: CourseState,
  course: Course,
  percents: Percents,
  rows: WeighedAssessment[],
  row: WeighedAssessment,
): WeightsFigures['chosen'] {
  const component = course.components.find((c) => c.id === row.componentId)!
  // What stands in the same component with the same share is one thing to the plan.
  const together = rows.filter(
    (r) => r.componentId === row.componentId && r.should !== null && row.should !== null && Math.abs(r.should - row.should) < 1e-6,
  )
  // Where they come to what they should together, it is the one alone.
  const ids =
    together.length > 1 &&
    isOff(
      total(together, (r) => r.should),
      total(together, (r) => r.decides),
    )
      ? together.map((r) => r.id)
      : [row.id]
  const sum = (list: (number | null)[]) => (list.some((x) => x === null) ? null : list.reduce<number>((s, x) => s + x!, 0))
  const inGroup = rows.filter((r) => ids.includes(r.id))
  const restRows = rows.filter((r) => !ids.includes(r.id) && r.sd !== null && r.should !== null)
  const restSd = restRows.length > 0 ? describe(restRows.map((r) => r.sd!)).median : null
  const rest = restRows.flatMap((r) => percents.get(r.id) ?? [])
  const shape = (values: number[]) => density(values, { from: 0, to: 100, points: SHAPE_POINTS })
  const offers = offersFor(state, course, percents, { row, inGroup, component, restSd })
  return {
    row,
    together: ids,
    decidesTogether: sum(inGroup.map((r) => r.decides)),
    shouldTogether: sum(inGroup.map((r) => r.should)),
    own: shape(ids.flatMap((id) => percents.get(id) ?? [])),
    rest: shape(rest),
    restSd,
    offers,
  }
}

interface About {
  row: WeighedAssessment
  inGroup: WeighedAssessment[]
  component: Course['components'][number]
  restSd: number | null
}

/** A spread that would bring what an assessment decides to what it should, no wilder than this. */
const SPREADS = { least: 0.4, most: 2.5 }

function offersFor(state: CourseState, course: Course, percents: Percents, { row, inGroup, component, restSd }: About): Offer[] {
  const group = inGroup.length > 1 ? `all ${inGroup.length} of ${titleOf(state, component.id)}` : row.title
  const spread = (sdOf: (r: WeighedAssessment) => number): Change[] =>
    inGroup.flatMap((r): Change[] => {
      const marks = percents.get(r.id) ?? []
      const { outOf } = course.assessments.find((a) => a.id === r.id)!
      const { mean, sd } = describe(marks)
      if (mean === null || sd === null || sd === 0) return []
      const scale = outOf / 100
      const adjustment: Adjustment = {
        id: `${r.id}-spread`,
        assessmentId: r.id,
        outOf,
        sectionIds: null,
        method: {
          kind: 'matchMeanSd',
          from: { mean: mean * scale, sd: sd * scale },
          to: { mean: mean * scale, sd: Number((sdOf(r) * scale).toFixed(3)) },
          like: { group: 'typed' },
        },
        on: true,
        neverLower: false,
        above: 'keep within',
        step: null,
      }
      return [{ kind: 'adjust', adjustment }]
    })
  const [should, decides] = [total(inGroup, (r) => r.should), total(inGroup, (r) => r.decides)]
  const offers: { words: string; changes: Change[] }[] = []
  if (should > 0 && decides > 0) {
    const factor = Math.min(SPREADS.most, Math.max(SPREADS.least, should / decides))
    if (restSd !== null && decides < should) offers.push({ words: `Spread ${group} like the rest`, changes: spread(() => restSd) })
    if (factor !== 1)
      offers.push({
        words: factor < 1 ? `Draw ${group} in, spread × ${fixed(factor, 2)}` : `Spread ${group}, × ${fixed(factor, 2)}`,
        changes: spread((r) => r.sd! * factor),
      })
    const weight = Math.round(component.weight * factor)
    const all = course.components.reduce((s, c) => s + (c.bonus ? 0 : c.weight), 0)
    // Something has to be left for the others.
    const whole = course.assessments.every(
      (a) => a.componentId !== component.id || a.bonus || !a.counts || inGroup.some((r) => r.id === a.id),
    )
    if (whole && !component.bonus && weight !== component.weight && weight > 0 && weight < all)
      offers.push({
        words: `Weigh ${titleOf(state, component.id)} ${numeral(weight)} instead of ${numeral(component.weight)}`,
        changes: weighed(course, component.id, weight),
      })
  }
  if (component.combine === 'byWorth' && !sameWorth(course, component.id))
    offers.push({
      words: `Count all of ${titleOf(state, component.id)} alike, whatever their maxima`,
      changes: [{ kind: 'shape', componentId: component.id, patch: { combine: 'equally' } }],
    })
  const ends = endsOf(state.tried, state.current.standing)
  const tried = offers.filter((o) => o.changes.length > 0).map((o) => tryOut(state, o, inGroup, ends))
  // What does not bring it nearer is no offer.
  const away = (x: number | null) => (x === null ? Infinity : Math.abs(x - should))
  return should === 0 ? tried : tried.filter((o) => away(o.decides) < away(decides) - NEARER || o.changes.every((c) => c.kind === 'shape'))
}

const titleOf = ({ table }: CourseState, id: string): string => table.components.find((c) => c.id === id)?.title ?? id

function sameWorth(course: Course, componentId: string): boolean {
  const own = course.assessments.filter((a) => a.counts && !a.bonus && a.componentId === componentId)
  return own.every((a) => a.worth === own[0]!.worth)
}

/** One component with another weight, and the others in proportion, so that they sum to what they did. */
function weighed({ components }: Course, componentId: string, weight: number): Change[] {
  const ordinary = components.filter((c) => !c.bonus)
  const total = ordinary.reduce((s, c) => s + c.weight, 0)
  const others = ordinary.filter((c) => c.id !== componentId)
  const left = spreadRemainder(
    others.map((c) => c.weight),
    total - weight,
  )
  return [{ kind: 'weigh', componentId, weight }, ...others.map((c, i): Change => ({ kind: 'weigh', componentId: c.id, weight: left[i]! }))]
}

function tryOut(state: CourseState, { words, changes }: Pick<Offer, 'words' | 'changes'>, group: WeighedAssessment[], ends: number): Offer {
  const { tried, current } = state
  const after = applyChanges(tried, changes)
  const outcome = current.with(after)
  const shares = new Map(outcome.decides().map((w) => [w.assessmentId, w.share]))
  const own = group.map((r) => shares.get(r.id) ?? null)
  return {
    words,
    changes,
    decides: own.some((x) => x === null) ? null : own.reduce<number>((s, x) => s + x!, 0),
    moves: compareResults(current.places, outcome.places).movers.length,
    ends: endsOf(after, outcome.standing) - ends,
  }
}

/** How many marks stand at the top or at nothing. */
function endsOf({ course, cells, scripts }: Workings, { mark }: Standing): number {
  const tops = course.assessments.map((a) => a.outOf)
  let ends = 0
  for (let cell = 0; cell < cells.count; cell++) {
    const here = scripts.there[cell] !== NO_SCRIPT && (mark[cell] === 0 || mark[cell] === tops[cell % cells.width])
    if (here) ends++
  }
  return ends
}
