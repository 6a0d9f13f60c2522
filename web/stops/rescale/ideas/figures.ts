import { describe } from '#core/compare'
import { gradeCounts, type Boundary } from '#core/grades'
import { gradeAt } from '#core/bounds'
import { compareResults, percentOf, type ResultChange } from '#core/rescale'
import { applyChanges, type Change } from '#core/trial'
import type { CourseState, Outcome } from '../../../course/state'
import { peopleOf, type StripPerson } from '../../../parts/strip-people'

/** A set of changes to be looked at beside others. */
export interface IdeaLike {
  id: string
  changes: Change[]
}

/** What one of several ways would come to, held against what is adopted. */
export interface IdeaFigures {
  id: string
  people: StripPerson[]
  boundaries: Boundary[]
  counts: { grade: string; count: number }[]
  mean: number | null
  change: ResultChange
  sections: { id: string; mean: number | null; passed: number; finals: number }[]
  /** Why it can’t be in force (any more); the other figures are then those of what is adopted. */
  problem: string | null
}

/** What is adopted, and what each idea would come to. */
export function ideasFigures(state: CourseState, ideas: readonly IdeaLike[]): { adopted: IdeaFigures; ideas: IdeaFigures[] } {
  const { workings, adopted } = state
  return {
    adopted: figuresOf(state, 'adopted', adopted, null),
    ideas: ideas.map(({ id, changes }) => {
      try {
        return figuresOf(state, id, adopted.with(applyChanges(workings, changes)), null)
      } catch (e) {
        return figuresOf(state, id, adopted, e instanceof Error ? e.message : String(e))
      }
    }),
  }
}

function figuresOf({ table, adopted }: CourseState, id: string, outcome: Outcome, problem: string | null): IdeaFigures {
  const { result } = outcome
  const lowest = [...result.boundaries].sort((a, b) => a.from - b.from)[0]
  const sections = new Map(table.sections.map((s) => [s.id, { id: s.id, percents: [] as number[], passed: 0, finals: 0 }]))
  table.students.forEach((s, i) => {
    const student = result.students[i]!
    const own = sections.get(s.sectionId)
    const percent = percentOf(student)
    if (!own || percent === null) return
    own.percents.push(percent)
    if (student.final !== null) own.finals++
    if (gradeAt(percent, result.boundaries, result.rounding) !== lowest?.grade) own.passed++
  })
  const people = peopleOf(result)
  return {
    id,
    people,
    boundaries: result.boundaries,
    counts: gradeCounts(result),
    mean: describe(people.map((p) => p.value)).mean,
    change: compareResults(adopted.result, result),
    sections: [...sections.values()].map(({ percents, ...s }) => ({ ...s, mean: describe(percents).mean })),
    problem,
  }
}
