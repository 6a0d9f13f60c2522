import { boundFigures } from '../stops/bound/figures'
import { compareSections } from '../parts/compared'
import { readingQueueOf } from '../stops/reconcile/queue'
import { rescaleFigures } from '../stops/rescale/figures'
import { studentFigures } from '../stops/student/figures'
import type { CourseState } from './state'

/** What stops ask the course for, each reckoned where its marks are. */
export const FIGURES = {
  bound: boundFigures,
  compare: compareSections,
  reconcile: readingQueueOf,
  rescale: rescaleFigures,
  student: studentFigures,
} satisfies Record<string, (state: CourseState, ...args: never[]) => unknown>

export type FigureName = keyof typeof FIGURES
export type FigureArgs<N extends FigureName> = (typeof FIGURES)[N] extends (state: CourseState, ...args: infer A) => unknown ? A : never
export type Figure<N extends FigureName> = ReturnType<(typeof FIGURES)[N]>
