import { compareGroups, describe, hasWork, percentOf, type Description, type GroupComparison, type GroupsComparison } from '#core'
import type { Course } from '../../frame/course'

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
  title: string
  /** Top of the axis: what it is marked out of, or 100 for percents. */
  top: number
  unit: 'marks' | 'percent'
  passMark: number | null
  tolerance: number
  sections: ComparedSection[]
  kruskal: GroupsComparison['kruskal']
  mean: number | null
}

/** What to compare: an assessment's id, a component's, or the whole course. */
export const WHOLE_COURSE = 'course'
/** Share of the axis within which a section counts as level. */
const LEVEL_SHARE = 0.03

/** Every section's values for an assessment, a component or the course, as they stand now. */
export function compareSections({ table, current }: Pick<Course, 'table' | 'current'>, of: string): Compared {
  const assessment = table.assessments.find((a) => a.id === of)
  const componentAt = table.components.findIndex((c) => c.id === of)
  const values = new Map<string, number>()
  const waiting = new Set<string>()
  if (assessment) {
    for (const s of current.standing)
      if (s.assessmentId === of) {
        if (s.mark !== null) values.set(s.studentId, s.mark)
        else if (hasWork(s.status)) waiting.add(s.studentId)
      }
  } else
    for (const s of current.result.students) {
      const value = componentAt >= 0 ? s.components[componentAt]!.percent : percentOf(s)
      if (value !== null) values.set(s.studentId, value)
      if (componentAt >= 0 ? value === null : s.final === null) waiting.add(s.studentId)
    }
  const top = assessment?.outOf ?? 100
  const lowest = [...current.result.boundaries].sort((a, b) => a.from - b.from)
  const passMark = assessment ? assessment.passMark : componentAt >= 0 ? null : (lowest[1]?.from ?? null)
  const groups = table.sections.map((section) => ({
    section,
    people: table.students
      .filter((s) => s.sectionId === section.id && values.has(s.id))
      .map((s) => ({ id: s.id, value: values.get(s.id)! })),
    open: table.students.filter((s) => s.sectionId === section.id && waiting.has(s.id)).length,
  }))
  const compared = compareGroups(groups.map((g) => ({ id: g.section.id, values: g.people.map((p) => p.value) })))
  return {
    title: assessment?.title ?? table.components[componentAt]?.title ?? 'The course',
    top,
    unit: assessment ? 'marks' : 'percent',
    passMark,
    tolerance: top * LEVEL_SHARE,
    kruskal: compared.kruskal,
    mean: describe([...values.values()]).mean,
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
