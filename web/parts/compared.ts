import { compareGroups, density, describe, type Description, type GroupComparison, type GroupsComparison } from '#core/compare'
import { percentOf } from '#core/rescale'
import { hasWork, standingOf } from '#core/trial'
import type { CourseState } from '../course/state'
import { RIDGE_POINTS } from './ridge-points'
import { tickStep } from './ticks'

export interface ComparedSection {
  id: string
  name: string
  teacher: string | null
  people: { id: string; value: number }[]
  figures: Description
  passed: number | null
  /** Not yet marked. */
  open: number
  lean: GroupComparison
}

export interface Compared {
  /** What is compared: an assessment's id, a component's, or WHOLE_COURSE. */
  of: string
  title: string
  /** Bottom of the axis. */
  from: number
  /** Top of the axis: what it is marked out of, or 100 for percents. */
  top: number
  unit: 'marks' | 'percent'
  passMark: number | null
  tolerance: number
  sections: ComparedSection[]
  kruskal: GroupsComparison['kruskal']
  mean: number | null
  /** Height of the tallest ridge. */
  tallest: number
}

/** What to compare: an assessment's id, a component's, or the whole course. */
export const WHOLE_COURSE = 'course'
/** Share of the axis within which a section counts as level. */
const LEVEL_SHARE = 0.03

/** An assessment that is compared where none is named: one that was read twice, else the course. */
const defaultOf = ({ table }: CourseState): string => table.assessments.find((a) => a.readingsWanted === 2)?.id ?? WHOLE_COURSE

/** Every section's values for an assessment, a component or the course, as they stand now. */
export function compareSections(state: CourseState, wanted: string | null): Compared {
  const { table, current } = state
  const of = wanted ?? defaultOf(state)
  const assessment = table.assessments.find((a) => a.id === of)
  const componentAt = table.components.findIndex((c) => c.id === of)
  const values = new Map<string, number>()
  const waiting = new Set<string>()
  if (assessment) {
    for (const s of standingOf(state.tried, current.standing, of))
      if (s.mark !== null) values.set(s.studentId, s.mark)
      else if (hasWork(s.status)) waiting.add(s.studentId)
  } else
    for (const s of current.result.students) {
      const value = componentAt >= 0 ? s.components[componentAt]!.percent : percentOf(s)
      if (value !== null) values.set(s.studentId, value)
      if (componentAt >= 0 ? value === null : s.final === null) waiting.add(s.studentId)
    }
  const top = assessment?.outOf ?? 100
  const lowest = [...current.result.boundaries].sort((a, b) => a.from - b.from)
  const passMark = assessment ? assessment.passMark : componentAt >= 0 ? null : (lowest[1]?.from ?? null)
  const peopleIn = new Map(table.sections.map((s) => [s.id, { people: [] as ComparedSection['people'], open: 0 }]))
  for (const { id, sectionId } of table.students) {
    const own = peopleIn.get(sectionId)!
    const value = values.get(id)
    if (value !== undefined) own.people.push({ id, value })
    if (waiting.has(id)) own.open++
  }
  const groups = table.sections.map((section) => ({ section, ...peopleIn.get(section.id)! }))
  const compared = compareGroups(groups.map((g) => ({ id: g.section.id, values: g.people.map((p) => p.value) })))
  const width = tickStep(top)
  const low = [...values.values()].reduce((m, v) => Math.min(m, v), Infinity)
  const from = values.size > 0 ? Math.min(Math.floor(low / width) * width, top - width) : 0
  return {
    of,
    title: assessment?.title ?? table.components[componentAt]?.title ?? 'The course',
    from,
    top,
    unit: assessment ? 'marks' : 'percent',
    passMark,
    tolerance: top * LEVEL_SHARE,
    kruskal: compared.kruskal,
    mean: describe([...values.values()]).mean,
    tallest: tallestOf(
      groups.map((g) => g.people.map((p) => p.value)),
      from,
      top,
    ),
    sections: groups.map((g, i) => ({
      id: g.section.id,
      name: g.section.name,
      teacher: g.section.teacher,
      people: g.people,
      figures: describe(g.people.map((p) => p.value)),
      passed: passMark === null ? null : g.people.filter((p) => p.value >= passMark).length,
      open: g.open,
      lean: compared.groups[i]!,
    })),
  }
}

/** The tallest of all ridges with a little room above it, so that every row is drawn on one scale. */
const tallestOf = (groups: readonly (readonly number[])[], from: number, to: number): number =>
  1.1 *
  groups.reduce((most, values) => density(values, { from, to, points: RIDGE_POINTS }).reduce((m, p) => Math.max(m, p.y), most), 0.0001)
