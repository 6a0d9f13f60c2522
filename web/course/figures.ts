import type { CourseOutcomes, JudgedReadings } from '#contract'
import { boundFigures } from '../stops/bound/figures'
import { heldBack } from '../parts/held-back'
import { oneMoreMark } from '../stops/bound/one-more'
import { plainFigures } from '../stops/bound/plain'
import { judgementsGiven, suggestedLines } from '../stops/bound/suggestions/figures'
import { sureFigures } from '../parts/sure-figures'
import { reportFigures } from '../stops/confirm/report/figures'
import { compareCriteria, givenBy, leansByCriterion } from '../stops/compare/criteria/figures'
import { compareMarkers } from '../stops/compare/markers/figures'
import { reliabilityOf } from '../stops/compare/reliability'
import { compareYears, type EarlierCourse } from '../stops/compare/years/figures'
import { compareSections } from '../parts/compared'
import { gradesIf } from '../stops/reconcile/would-be'
import { lookNext } from '../stops/reconcile/look-next'
import { readingQueueOf } from '../stops/reconcile/queue'
import { ideasFigures } from '../parts/ideas/figures'
import { weightsFigures } from '../stops/rescale/weights/figures'
import { copiesOf, rescaleFigures } from '../stops/rescale/figures'
import { evidenceFigures, standingsFigures } from '../stops/agree/standings/figures'
import { countsAs } from '../stops/mark/sheet/counts-as'
import { studentFigures } from '../stops/student/figures'
import type { CourseState } from './state'

/** What stops ask the course for, each reckoned where its marks are. */
export const FIGURES = {
  bound: boundFigures,
  plain: plainFigures,
  heldBack,
  oneMoreMark,
  suggestedLines,
  judgementsGiven,
  sure: sureFigures,
  report: reportFigures,
  compare: compareSections,
  markers: compareMarkers,
  reliability: reliabilityOf,
  gradesIf,
  lookNext,
  reconcile: readingQueueOf,
  rescale: rescaleFigures,
  rescaleCopies: copiesOf,
  ideas: ideasFigures,
  weights: weightsFigures,
  student: studentFigures,
  countsAs,
} satisfies Record<string, (state: CourseState, ...args: never[]) => unknown>

export type FigureName = keyof typeof FIGURES
export type FigureArgs<N extends FigureName> = (typeof FIGURES)[N] extends (state: CourseState, ...args: infer A) => unknown ? A : never
export type Figure<N extends FigureName> = ReturnType<(typeof FIGURES)[N]>

/** Those that the readings of an assessment are needed for, criterion by criterion. */
export const JUDGED_FIGURES = {
  criteria: compareCriteria,
  leans: leansByCriterion,
  givenBy,
} satisfies Record<string, (state: CourseState, judged: JudgedReadings, ...args: never[]) => unknown>

export type JudgedFigureName = keyof typeof JUDGED_FIGURES
export type JudgedFigureArgs<N extends JudgedFigureName> = (typeof JUDGED_FIGURES)[N] extends (
  state: CourseState,
  judged: JudgedReadings,
  ...args: infer A
) => unknown
  ? A
  : never
export type JudgedFigure<N extends JudgedFigureName> = ReturnType<(typeof JUDGED_FIGURES)[N]>

/** Those that the readings of all assessments are needed for that give evidence of an outcome. */
export const OUTCOME_FIGURES = {
  standings: standingsFigures,
  evidence: evidenceFigures,
} satisfies Record<string, (state: CourseState, judged: readonly JudgedReadings[], given: CourseOutcomes, ...args: never[]) => unknown>

export type OutcomeFigureName = keyof typeof OUTCOME_FIGURES
export type OutcomeFigureArgs<N extends OutcomeFigureName> = (typeof OUTCOME_FIGURES)[N] extends (
  state: CourseState,
  judged: readonly JudgedReadings[],
  given: CourseOutcomes,
  ...args: infer A
) => unknown
  ? A
  : never
export type OutcomeFigure<N extends OutcomeFigureName> = ReturnType<(typeof OUTCOME_FIGURES)[N]>

/** This course beside others. */
export const YEARS = (state: CourseState, earlier: readonly EarlierCourse[], wanted: string | null, asMarked: boolean) =>
  compareYears(state, earlier, wanted, asMarked)
export type Years = ReturnType<typeof YEARS>
