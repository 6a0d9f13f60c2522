import { byRubric } from './by-rubric'
import { byScheme } from './by-scheme'
import { completion } from './completion'
import { direct } from './direct'
import { judgement } from './judgement'
import { markingBy, type Marking } from './markings'
import type { Judged, StandardOf, Way } from './way'

export { JudgedError, type Judged, type StandardOf } from './way'

const WAYS = { direct, rubric: byRubric, scheme: byScheme, judgement, completion } satisfies Record<Marking, unknown>
export const wayTitle = (marking: Marking): string => WAYS[marking].title
/** What a judgement is made of: the standard, and how the assessment takes it. */
export interface JudgedOn {
  standard: StandardOf | null
  outOf: number
  /** Without a standard: done or not, and not a mark. */
  completion?: boolean
  /** What is not judged is left so on purpose, and gives nothing. */
  gapMeant?: boolean
}

interface Bound {
  way: Way<unknown>
  body: unknown
}
const bound = ({ standard, completion: done = false }: Pick<JudgedOn, 'standard' | 'completion'>): Bound =>
  standard
    ? { way: WAYS[markingBy(standard.kind)] as unknown as Way<unknown>, body: standard.body }
    : { way: (done ? completion : direct) as unknown as Way<unknown>, body: null }

/** What is not judged yet, by title. */
export function unjudged(judged: Judged, on: Pick<JudgedOn, 'standard'>): string[] {
  const { way, body } = bound(on)
  return way.unjudged(judged, body)
}

/**
 * The mark that follows from what somebody judged, in marks.
 * @throws JudgedError where it does not fit, or something is not judged and no gap was meant
 */
export function markOf(judged: Judged, on: JudgedOn): Judged & { mark: number } {
  const { way, body } = bound(on)
  way.check(judged, body, on.outOf)
  const open = way.unjudged(judged, body)
  const mark = open.length > 0 && !on.gapMeant ? null : way.mark(judged, body, on.outOf)
  if (mark === null) throw way.asks(open)
  return { ...way.keeps(judged), mark }
}

/** The mark of a reading that is not done; null while something is not judged. @throws JudgedError where it does not fit */
export function markSoFar(judged: Judged, on: JudgedOn): number | null {
  const { way, body } = bound(on)
  way.check(judged, body, on.outOf)
  return way.unjudged(judged, body).length > 0 ? null : way.mark(judged, body, on.outOf)
}
