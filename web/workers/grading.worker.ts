import { expose } from 'comlink'
import {
  applyChanges,
  compareResults,
  gradeCourse,
  standingMarks,
  toCourse,
  workingsOf,
  type Change,
  type CourseResult,
  type ResultChange,
  type StandingMark,
  type TableLike,
  type Workings,
} from '#core'

export interface Outcome {
  standing: StandingMark[]
  result: CourseResult
}

const outcomeOf = (w: Workings): Outcome => {
  const standing = standingMarks(w)
  return { standing, result: gradeCourse(toCourse(w, standing)) }
}

let adoptedWorkings: Workings | null = null
let adopted: Outcome | null = null

/** Grades beside the page: a course once, then every trial of it. */
const grading = {
  load(table: TableLike): Outcome {
    adoptedWorkings = workingsOf(table)
    adopted = outcomeOf(adoptedWorkings)
    return adopted
  },
  tryOut(changes: Change[]): Outcome & { change: ResultChange } {
    if (!adoptedWorkings || !adopted) throw new Error('no course loaded')
    const tried = outcomeOf(applyChanges(adoptedWorkings, changes))
    return { ...tried, change: compareResults(adopted.result, tried.result) }
  },
}

export type Grading = typeof grading
expose(grading)
