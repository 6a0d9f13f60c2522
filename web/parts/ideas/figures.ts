import { meanOf, whoIsIn } from '#core/compare'
import { gradeCounts, type Boundary, type GradeCount, type StudentResult } from '#core/grades'
import { gradeAt } from '#core/bounds'
import { compareResults, percentOf, type ResultChange } from '#core/rescale'
import { applyChanges, type Change } from '#core/trial'
import type { CourseState, Outcome } from '../../course/state'
import { peopleOf, type StripPeople } from '../strip-people'

/** A set of changes to be looked at beside others. */
export interface IdeaLike {
  id: string
  changes: Change[]
}

/** What one of several ways would come to, held against another. */
export interface IdeaFigures {
  id: string
  people: StripPeople
  boundaries: Boundary[]
  counts: GradeCount[]
  mean: number | null
  /** The students in it, in words. */
  who: string
  /** Against the one that all are held against. */
  change: ResultChange
  sections: { id: string; mean: number | null; passed: number; finals: number; counts: { grade: string; count: number }[] }[]
  /** Why it can’t be in force (any more); the other figures are then those of what is adopted. */
  problem: string | null
}

/**
 * What is adopted, and what each idea would come to.
 * @param against the id of the one that all are held against; what is adopted where there is none such
 */
export function ideasFigures(
  state: CourseState,
  ideas: readonly IdeaLike[],
  against: string | null = null,
): { adopted: IdeaFigures; ideas: IdeaFigures[] } {
  const { workings, adopted } = state
  const outcomes = ideas.map(({ id, changes }): { id: string; outcome: Outcome; problem: string | null } => {
    try {
      return { id, outcome: adopted.with(applyChanges(workings, changes)), problem: null }
    } catch (e) {
      return { id, outcome: adopted, problem: e instanceof Error ? e.message : String(e) }
    }
  })
  const held = outcomes.find((o) => o.id === against)?.outcome ?? adopted
  return {
    adopted: figuresOf(state.table, 'adopted', adopted, held, null),
    ideas: outcomes.map(({ id, outcome, problem }) => figuresOf(state.table, id, outcome, held, problem)),
  }
}

function figuresOf(table: CourseState['table'], id: string, outcome: Outcome, against: Outcome, problem: string | null): IdeaFigures {
  const { result } = outcome
  const lowest = [...result.boundaries].sort((a, b) => a.from - b.from)[0]
  const sections = new Map(
    table.sections.map((s) => [s.id, { id: s.id, percents: [] as number[], students: [] as StudentResult[], passed: 0, finals: 0 }]),
  )
  table.students.forEach((s, i) => {
    const student = result.students[i]!
    const own = sections.get(s.sectionId)
    const percent = percentOf(student)
    if (!own || percent === null) return
    own.percents.push(percent)
    own.students.push(student)
    if (student.final !== null) own.finals++
    if ((student.grade ?? gradeAt(percent, result.boundaries, result.rounding)) !== lowest?.grade) own.passed++
  })
  const people = peopleOf(outcome.graded)
  return {
    id,
    people,
    boundaries: result.boundaries,
    counts: gradeCounts(result),
    mean: meanOf(people.value),
    who: whoIsIn({
      of: 'course',
      counted: people.ids.length,
      all: table.students.length,
      notFinal: people.final.filter((f) => f === 0).length,
    }),
    change: compareResults(against.places, outcome.places),
    sections: [...sections.values()].map(({ percents, students, ...s }) => ({
      ...s,
      mean: meanOf(percents),
      counts: gradeCounts({ students, boundaries: result.boundaries }),
    })),
    problem,
  }
}
