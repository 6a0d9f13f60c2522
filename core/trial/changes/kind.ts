import type { Course, Policy } from '../../grades/course'
import type { Adjustment } from '../../rescale/adjustments'
import type { Grant, Without } from '../../rescale/methods'
import type { Picks } from '../../scales/rubric'
import type { Workings } from '../workings'

/** A change that does not fit the course; the message says why, in a sentence. */
export class ChangeError extends Error {
  override name = 'ChangeError'
  /** @param stale it did fit, and the course has changed since */
  constructor(
    message: string,
    readonly stale = false,
  ) {
    super(message)
  }
}

/** What changes change: the parts of the workings, each written anew and never in place. */
export type Draft = Pick<
  Workings,
  'cells' | 'markerIds' | 'readings' | 'adjustments' | 'leftOut' | 'agreed' | 'agreedBy' | 'reopened' | 'agreeBy'
> &
  Pick<Course, 'components' | 'assessments' | 'boundaries' | 'policy'> &
  Pick<Workings['course'], 'conditions'>

/** The course that a change is to fit. */
export interface Fits {
  /** The course as it is decided. */
  w: Workings
  /** The course with all the changes in it. */
  after: Workings
  /** The same with what is carried over together with the change. */
  carried: Workings
  assessments: ReadonlyMap<string, { title: string; outOf: number }>
  components: ReadonlySet<string>
  sections: ReadonlySet<string>
  markers: ReadonlySet<string>
  students: ReadonlySet<string>
  /** Adjustments there are, and those that come with the change. */
  adjustments: ReadonlySet<string>
  above100: Policy['above100']
  /** The mark that picks give by what an assessment is marked by; null where they are not whole or it is not marked so. */
  markOfPicks: (assessmentId: string, picks: Picks) => number | null
  /** Whether counting the criteria of an assessment so would give just these marks, now. */
  rereadNow: (assessmentId: string, method: Without | Grant) => boolean
  /** Whether carrying readings over would give just this, now. */
  carriesNow: (carry: { kind: 'carry'; assessmentId: string; standardId: string }) => boolean
}

/** How things are called in the record. */
export interface Called {
  /** An assessment or a component. */
  title: (id: string) => string
  section: (id: string) => string
  marker: (id: string) => string
  /** The assessment of a script. */
  ofScript: (scriptId: string) => string
  adjustments: readonly Pick<Adjustment, 'id' | 'assessmentId'>[]
}

/** One kind of change: everything the product knows of it. */
export interface ChangeKind<C> {
  /** What kind of decision it makes, for the record. */
  decides: 'reconcile' | 'rescale' | 'bound' | 'weights' | 'plan'
  /** What a trial holds so many of; another word for several, where there is one. */
  word: string
  several?: string
  /** What it is about: a later change to the same thing takes its place in a trial. */
  target: (c: C) => string
  /** The kind whose changes it takes the place of, where that is not its own. */
  inPlaceOf?: string
  /** A later change to the same thing; in its place as it is, where this is left out. */
  merge?: (earlier: C, later: C) => C
  /** Whether two of the same target decide the same part of it; they do where this is left out. */
  meets?: (a: C, b: C) => boolean
  /** Puts it in force. A change to what is not there (any more) does nothing. */
  apply: (draft: Draft, c: C) => void
  /** @throws ChangeError, AgreeError or AdjustmentError where it does not fit the course */
  check: (c: C, of: Fits) => void
  /** In words for the record; all of a kind that are told together. */
  words: (changes: readonly C[], called: Called) => string[]
  /** Told once for all of the kind, before the others. */
  together?: true
}

export const counted = (n: number, one: string, several = `${one}s`): string => `${n} ${n === 1 ? one : several}`
/** The rows of a list with a patch in one of them. */
export const patched = <T extends { id: string }>(rows: readonly T[], id: string, patch: Partial<NoInfer<T>>): T[] =>
  rows.map((x) => (x.id === id ? { ...x, ...patch } : x))

/** Whether two patches say something of the same field. */
export const samePart = (a: { patch: object }, b: { patch: object }): boolean => Object.keys(a.patch).some((key) => key in b.patch)

export function there(has: { has: (id: string) => boolean }, id: string, what: string): void {
  if (!has.has(id)) throw new ChangeError(`There is no such ${what}.`)
}
