import { useReducer, type ReactNode } from 'react'
import { addChanges, type Change } from '#core/trial'
import type { CourseTable } from '#contract'
import type { Figure, FigureArgs, FigureName } from '../course/figures'
import { smallCourse, smallFigures } from './small-course'

let current: ReturnType<typeof smallTrial> | null = null

/** In the place of what gives screens their course: `jest.mock('…/course/course', () => jest.requireActual('…/small-trial').inItsPlace)`. */
export const inItsPlace = {
  useCourse: () => current!.useCourse(),
  useDecidedCourse: () => current!.useCourse(),
  useExpectTrials: () => current!.expect,
  useFigures: <N extends FigureName>(name: N, ...args: FigureArgs<N>) => current!.figures(name, ...args),
  useFiguresOnce: <N extends FigureName>(_: boolean, name: N, ...args: FigureArgs<N>) => current!.figures(name, ...args),
}

/** A course with an open trial, as the screens of its stops have it: what is tried is drawn again. */
export function smallTrial(table: CourseTable) {
  let draw: () => void = () => undefined
  const put = (next: readonly Change[]): void => {
    trial.changes = [...next]
    draw()
  }
  const figures = <N extends FigureName>(name: N, ...args: FigureArgs<N>): Figure<N> => smallFigures(table, trial.changes)(name, ...args)
  const useCourse = () => ({
    ...smallCourse(table, trial.changes),
    mayDecide: trial.mayDecide,
    preview: () => undefined,
    refresh: () => Promise.resolve(),
    propose: (added: readonly Change[]) => put(addChanges(trial.changes, added)),
    setTrial: put,
  })
  const trial = {
    changes: [] as Change[],
    /** What was said may be tried next. */
    expected: [] as readonly (readonly Change[])[],
    mayDecide: true,
    begin(): void {
      trial.changes = []
      trial.expected = []
      trial.mayDecide = true
    },
    useCourse,
    expect: (trials: readonly (readonly Change[])[]) => void (trial.expected = trials),
    figures,
    /** Draws what stands in it again, whenever something else is tried. */
    Drawn({ children }: { children: () => ReactNode }) {
      ;[, draw] = useReducer((n: number) => n + 1, 0)
      return <>{children()}</>
    },
  }
  current = trial
  return trial
}
