import { rollup } from 'd3-array'
import {
  compareGroups,
  density,
  describe,
  expectedFromOtherWork,
  sectionSays,
  whoIsIn,
  type Against,
  type Description,
  type ExpectedGroup,
  type GroupComparison,
  type GroupsComparison,
  type SectionSays,
} from '#core/compare'
import { gradeAt } from '#core/bounds'
import { percentOf } from '#core/rescale'
import { appliesGrid, HAS_WORK, readingPlaces } from '#core/trial'
import type { CourseState } from '../course/state'
import { ofWhat, WHOLE_COURSE, type OfWhat } from './of-what'
import { reachedIn } from './other-work'
import { RIDGE_POINTS } from './ridge-points'
import { tickStep } from './ticks'

export interface Person {
  id: string
  value: number
}

/** People with what they reached. */
export interface ComparedGroup {
  id: string
  name: string
  people: Person[]
  figures: Description
  passed: number | null
  /** Read and not settled yet: they count as the mean of their readings. */
  unsettled: number
  /** Not yet marked. */
  open: number
}

export interface ComparedSection extends ComparedGroup {
  teacher: string | null
  lean: GroupComparison
  /** What its marks are once its students' other work is taken into account; null where that cannot be told. */
  expected: ExpectedGroup | null
  /** What its figures say; null where that cannot be told. */
  says: SectionSays | null
}

export interface Compared extends Pick<OfWhat, 'subject' | 'title' | 'unit' | 'top'> {
  /** Bottom of the axis. */
  from: number
  passMark: number | null
  tolerance: number
  /** That its figures need. */
  decimals: number
  sections: ComparedSection[]
  everyone: ComparedGroup
  /** The students in these figures, in words. */
  who: string
  kruskal: GroupsComparison['kruskal']
  mean: number | null
  /** Height of the tallest ridge. */
  tallest: number
  /** How marks go with other work, in marks for one percent; null where that cannot be told. */
  otherWork: { slope: number; df: number; assessmentIds: string[]; elsewhere: Record<string, number> } | null
}

export const NOT_TOLD: Against = { difference: null, interval: null }

/** Share of the axis within which a group counts as level. */
export const LEVEL_SHARE = 0.03

interface Values {
  value: Map<string, number>
  unsettled: Set<string>
  waiting: Set<string>
}

/** What each student reached in an assessment: the mark that stands, else the mean of their readings. */
function inAssessment({ tried, current }: CourseState, place: number): Values {
  const { cells, scripts, readings } = tried
  const applies = appliesGrid(tried)
  const { from, places } = readingPlaces(tried)
  const found: Values = { value: new Map(), unsettled: new Set(), waiting: new Set() }
  for (let cell = place; cell < cells.count; cell += cells.width) {
    if (applies[cell] === 0 || scripts.there[cell] === 0 || !HAS_WORK[scripts.status[cell]!]) continue
    const id = cells.studentId(cell)
    const mark = current.standing.mark[cell]!
    const [first, end] = [from[cell]!, from[cell + 1]!]
    if (mark === mark) found.value.set(id, mark)
    else if (end > first) {
      let sum = 0
      for (let i = first; i < end; i++) sum += readings.mark[places[i]!]!
      found.value.set(id, sum / (end - first))
      found.unsettled.add(id)
    } else found.waiting.add(id)
  }
  return found
}

function inResults({ current }: CourseState, component: number): Values {
  const found: Values = { value: new Map(), unsettled: new Set(), waiting: new Set() }
  const { result } = current
  result.students.forEach((s, row) => {
    const value = component >= 0 ? result.componentsAt(row)[component]!.percent : percentOf(s)
    if (value !== null) found.value.set(s.studentId, value)
    if (component >= 0 ? value === null : s.final === null) found.waiting.add(s.studentId)
  })
  return found
}

/** Whether a value passes, rounded as grades are; null where nothing says what passes. */
function passing(state: CourseState, what: OfWhat): { passMark: number | null; passes: (person: Person) => boolean } {
  if (what.unit === 'marks') {
    const { passMark } = state.table.assessments[what.assessments[0]!]!
    return { passMark, passes: ({ value }) => passMark !== null && value >= passMark }
  }
  const { boundaries, rounding } = state.current.result
  const [lowest, next] = [...boundaries].sort((a, b) => a.from - b.from)
  const passMark = what.component >= 0 ? null : (next?.from ?? null)
  // Of the course the grade says it, which a condition may hold back; a percent so far has none yet.
  const gradeOf = what.component >= 0 ? null : new Map(state.current.result.students.map((s) => [s.studentId, s.grade]))
  return { passMark, passes: ({ id, value }) => (gradeOf?.get(id) ?? gradeAt(value, boundaries, rounding)) !== lowest!.grade }
}

/**
 * Every section's values for an assessment, a component or the course, as they stand now.
 * @param others the assessments that tell how strong students are elsewhere; all the others that count where it is left out
 */
export function compareSections(state: CourseState, wanted: string | null, others: readonly string[] | null = null): Compared {
  const { table, tried } = state
  const what = ofWhat(state, wanted)
  const { value, unsettled, waiting } = what.unit === 'marks' ? inAssessment(state, what.assessments[0]!) : inResults(state, what.component)
  const { passMark, passes } = passing(state, what)
  const groupOf = (id: string, name: string, students: readonly { id: string }[]): ComparedGroup => {
    const people = students.flatMap((s) => {
      const own = value.get(s.id)
      return own === undefined ? [] : [{ id: s.id, value: own }]
    })
    return {
      id,
      name,
      people,
      figures: describe(people.map((p) => p.value)),
      passed: passMark === null ? null : people.filter(passes).length,
      unsettled: students.filter((s) => unsettled.has(s.id)).length,
      open: students.filter((s) => waiting.has(s.id)).length,
    }
  }
  const bySection = new Map(table.sections.map((s) => [s.id, [] as { id: string }[]]))
  for (const s of table.students) bySection.get(s.sectionId)!.push(s)
  const groups = table.sections.map((s) => ({ section: s, group: groupOf(s.id, s.name, bySection.get(s.id)!) }))
  const everyone = groupOf('everyone', 'Everyone', table.students)
  const compared = compareGroups(groups.map((g) => ({ id: g.section.id, values: g.group.people.map((p) => p.value) })))
  const { top } = what
  const from = startOf(everyone.people, top)

  const places = othersOf(state, what, others)
  const elsewhere = reachedIn(state, tried, places)
  const rows = groups.flatMap(({ section, group }) =>
    group.people.flatMap((p) => {
      const own = elsewhere[tried.cells.student(p.id)]!
      return own === own ? [{ groupId: section.id, mark: p.value, elsewhere: own }] : []
    }),
  )
  const expected = places.length > 0 ? expectedFromOtherWork(rows) : null
  const reached = rollup(
    rows,
    (own) => own.map((r) => r.elsewhere),
    (r) => r.groupId,
  )
  const there = compareGroups(groups.map(({ section }) => ({ id: section.id, values: reached.get(section.id) ?? [] })))
  const tolerance = top * LEVEL_SHARE
  const values = new Set(everyone.people.map((p) => p.value)).size
  const expectedFor = new Map(expected?.groups.map((g) => [g.groupId, g]))
  return {
    subject: what.subject,
    title: what.title,
    unit: what.unit,
    top,
    from,
    passMark,
    tolerance,
    decimals: top < 10 ? 2 : 1,
    kruskal: compared.kruskal,
    mean: everyone.figures.mean,
    tallest: tallestOf(
      groups.map((g) => g.group.people.map((p) => p.value)),
      from,
      top,
    ),
    everyone,
    who: whoIsIn({
      of: what.unit === 'marks' ? 'assessment' : what.component >= 0 ? 'component' : 'course',
      counted: everyone.people.length,
      all: table.students.length,
      notFinal: what.unit === 'marks' ? everyone.unsettled : everyone.people.filter((p) => waiting.has(p.id)).length,
    }),
    sections: groups.map(({ section, group }, i) => {
      const lean = compared.groups[i]!
      const own = expectedFor.get(section.id) ?? null
      const says = sectionSays(lean, there.groups[i]!, own?.againstOthers ?? NOT_TOLD, tolerance, values)
      return { ...group, teacher: section.teacher, lean, expected: own, says }
    }),
    otherWork: expected && {
      slope: expected.slope,
      df: expected.df,
      assessmentIds: places.map((a) => table.assessments[a]!.id),
      elsewhere: Object.fromEntries(
        everyone.people.flatMap((p) => {
          const own = elsewhere[tried.cells.student(p.id)]!
          return own === own ? [[p.id, own]] : []
        }),
      ),
    },
  }
}

/** The assessments that count as other work: those named, else all that count and are not what is looked at. */
function othersOf({ table }: CourseState, what: OfWhat, named: readonly string[] | null): number[] {
  if (what.subject === WHOLE_COURSE) return []
  const own = new Set(what.assessments)
  return table.assessments.flatMap((a, i) => (own.has(i) || !(named ? named.includes(a.id) : a.counts && !a.bonus) ? [] : i))
}

/** Where an axis begins: at a plain step below the lowest of all. */
export function startOf(people: readonly Person[], top: number): number {
  const width = tickStep(top)
  const low = people.reduce((m, p) => Math.min(m, p.value), Infinity)
  return people.length > 0 ? Math.min(Math.floor(low / width) * width, top - width) : 0
}

/** The tallest of all ridges with a little room above it, so that every row is drawn on one scale. */
export const tallestOf = (groups: readonly (readonly number[])[], from: number, to: number): number =>
  1.1 *
  groups.reduce((most, values) => density(values, { from, to, points: RIDGE_POINTS }).reduce((m, p) => Math.max(m, p.y), most), 0.0001)
