import { nearBoundary, type NearBoundary } from '#core/bounds'
import { meanOf } from '#core/compare'
import { gradeCounts, type Boundary, type StudentResult } from '#core/grades'
import { compareResults, type ResultChange } from '#core/rescale'
import type { CourseState, Outcome } from '../../course/state'

type Counts = ReturnType<typeof gradeCounts>

export interface BoundFigures {
  /** The limits that these figures are of. */
  boundaries: Boundary[]
  counts: Counts
  /** As adopted. */
  before: Counts
  mean: number | null
  /** Who moves against the adopted limits and conditions. */
  impact: Pick<ResultChange, 'movers' | 'up' | 'down' | 'gained' | 'lost' | 'renamed'>
  /** Students within the zone of any line, nearest first. */
  near: NearBoundary[]
  sections: { id: string; name: string; counts: Counts; finals: number; mean: number | null }[]
}

/** The marks of the trial under the lines and conditions in force: against it only what is drawn here shows. */
function underAdopted({ workings, tried, current }: CourseState): Outcome {
  const { boundaries, conditions } = workings.course
  if (boundaries === tried.course.boundaries && conditions === tried.course.conditions) return current
  return current.with({ ...tried, course: { ...tried.course, boundaries, conditions } })
}

/** What the limits in the trial do, beside those that are adopted. */
export function boundFigures(state: CourseState, zone: number): BoundFigures {
  const { table, tried, adopted, current } = state
  const { boundaries } = tried.course
  const { result } = current
  const own = new Map(table.sections.map((s) => [s.id, [] as StudentResult[]]))
  table.students.forEach((s, i) => own.get(s.sectionId)!.push(result.students[i]!))
  const finals = (students: readonly StudentResult[]) => students.flatMap((s) => s.adjusted ?? [])
  const { movers, up, down, gained, lost, renamed } = compareResults(underAdopted(state).places, current.places)
  return {
    boundaries,
    counts: gradeCounts(result),
    before: gradeCounts(adopted.result),
    mean: meanOf(finals(result.students)),
    impact: { movers, up, down, gained, lost, renamed },
    near: nearBoundary(result, zone),
    sections: table.sections.map(({ id, name }) => {
      const students = own.get(id)!
      const percents = finals(students)
      return { id, name, counts: gradeCounts({ students, boundaries }), finals: percents.length, mean: meanOf(percents) }
    }),
  }
}
