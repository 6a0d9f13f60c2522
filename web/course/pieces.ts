import { effectsIn } from '#core/trial'
import type { FigureArgs, FigureName } from './figures'
import { readingsToAskFor } from '../stops/reconcile/look-next'
import type { CourseState } from './state'

/**
 * What takes a figure long, in pieces that are remembered once they are worked out: between them others are answered, so that nobody
 * waits at another stop for what the last one asked for.
 */
export const PIECES: { [N in FigureName]?: (state: CourseState, ...args: FigureArgs<N>) => Iterable<unknown> } = {
  *sure(state, given) {
    yield* readingErrors(state)
    yield state.current.unsure(given)
  },
  *lookNext(state, given) {
    yield* readingErrors(state)
    yield state.current.unsure(given)
    yield* readingsToAskFor(state, given)
  },
}

function* readingErrors({ tried, table }: CourseState): Iterable<unknown> {
  for (let at = 0; at < table.assessments.length; at++) yield effectsIn(tried, at)
}
