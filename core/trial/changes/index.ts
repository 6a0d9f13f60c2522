import canonicalize from 'canonicalize'
import type { Workings } from '../workings'
import { adjust, type Adjust } from './adjust'
import { agreeBy, type AgreeBy } from './agree-by'
import { assess, type Assess } from './assess'
import { bound, type Bound } from './bound'
import { carry, type Carry } from './carry'
import { condition, type SetCondition } from './condition'
import { exclude, type Exclude } from './exclude'
import { counted, type Called, type ChangeKind, type Draft, type Fits } from './kind'
import { order, type Order } from './order'
import { policy, type SetPolicy } from './policy'
import { reopen, type Reopen } from './reopen'
import { settle, type Settle } from './settle'
import { shape, type Shape } from './shape'
import { switched, type Switch } from './switch'
import { takeAway, type TakeAway } from './take-away'
import { weigh, type Weigh } from './weigh'

export { ChangeError, type Fits } from './kind'
export type { CarriedReading } from './carry'

/** What a trial may try and a decision may decide, one small step each. */
export type Change =
  | Settle
  | Reopen
  | AgreeBy
  | Adjust
  | Switch
  | Order
  | Bound
  | SetCondition
  | Weigh
  | Shape
  | Assess
  | TakeAway
  | Exclude
  | SetPolicy
  | Carry
type Kind = Change['kind']

/** Every kind of change. */
const CHANGES: { [K in Kind]: ChangeKind<Extract<Change, { kind: K }>> } = {
  settle,
  reopen,
  'agree by': agreeBy,
  adjust,
  switch: switched,
  order,
  bound,
  condition,
  weigh,
  shape,
  assess,
  'take away': takeAway,
  exclude,
  policy,
  carry,
}
const KINDS = Object.keys(CHANGES) as Kind[]
const kindOf = (kind: Kind): ChangeKind<Change> => CHANGES[kind] as unknown as ChangeKind<Change>

/** What a change is about: a later change to the same thing takes its place in a trial. */
export const changeTarget = (c: Change): string => `${kindOf(c.kind).inPlaceOf ?? c.kind} ${kindOf(c.kind).target(c)}`.trimEnd()

/** Whether one change would decide otherwise what another one decided. */
export const decidesOtherwise = (c: Change, decided: Change): boolean =>
  changeTarget(c) === changeTarget(decided) &&
  (c.kind !== decided.kind || (kindOf(c.kind).meets?.(c, decided) ?? true)) &&
  canonicalize(c) !== canonicalize(decided)

/** Adds changes to a trial; each takes the place of an earlier one to the same thing. */
export function addChanges(trial: readonly Change[], added: readonly Change[]): Change[] {
  const byTarget = new Map(trial.map((c) => [changeTarget(c), c]))
  for (const c of added) {
    const earlier = byTarget.get(changeTarget(c))
    byTarget.set(changeTarget(c), earlier ? (kindOf(c.kind).merge?.(earlier, c) ?? c) : c)
  }
  return [...byTarget.values()]
}

/** The workings with changes in force. Changes to what is not there (any more) do nothing. */
export function applyChanges(w: Workings, changes: readonly Change[]): Workings {
  if (changes.length === 0) return w
  const { cells, markerIds, readings, adjustments, leftOut, agreeBy: rules, course } = w
  const settles = changes.some((c) => c.kind === 'settle' || c.kind === 'reopen')
  const draft: Draft = {
    cells,
    markerIds,
    readings,
    adjustments,
    leftOut,
    agreeBy: rules,
    agreed: settles ? new Map(w.agreed) : w.agreed,
    agreedBy: settles ? new Map(w.agreedBy) : w.agreedBy,
    reopened: settles ? new Set(w.reopened) : w.reopened,
    components: course.components,
    assessments: course.assessments,
    boundaries: course.boundaries,
    conditions: course.conditions,
    policy: course.policy,
  }
  for (const c of changes) kindOf(c.kind).apply(draft, c)
  const { components, assessments, boundaries, conditions, policy } = draft
  return {
    ...w,
    agreed: draft.agreed,
    agreedBy: draft.agreedBy,
    reopened: draft.reopened,
    readings: draft.readings,
    adjustments: draft.adjustments,
    leftOut: draft.leftOut,
    agreeBy: draft.agreeBy,
    course: { ...course, components, assessments, boundaries, conditions, policy },
  }
}

/**
 * Whether changes fit a course.
 * @param wrong told the place of the first that does not, and why; what it returns or throws ends the check
 */
export function checkChanges(
  changes: readonly Change[],
  known: Omit<Fits, 'carried' | 'after'>,
  wrong: (place: number, e: unknown) => never,
): void {
  const carried = applyChanges(
    known.w,
    changes.filter((c) => c.kind === 'carry'),
  )
  const after = applyChanges(known.w, changes)
  for (const [i, c] of changes.entries())
    try {
      kindOf(c.kind).check(c, { ...known, carried, after })
    } catch (e) {
      wrong(i, e)
    }
}

/** The kind of decision that changes make, where they are all of one. */
export function decisionKind(changes: readonly Change[]): ChangeKind<Change>['decides'] | 'several' {
  const kinds = new Set(changes.map((c) => kindOf(c.kind).decides))
  return kinds.size === 1 ? [...kinds][0]! : 'several'
}

/** What changes did, in words for the record. */
export function changesInWords(changes: readonly Change[], called: Called): string {
  const together = KINDS.filter((kind) => kindOf(kind).together).flatMap((kind) => {
    const all = changes.filter((c) => c.kind === kind)
    return all.length > 0 ? kindOf(kind).words(all, called) : []
  })
  const others = changes.flatMap((c) => (kindOf(c.kind).together ? [] : kindOf(c.kind).words([c], called)))
  return [...together, ...others].join('; ')
}

/** How many of what a trial holds. */
export function trialInWords(changes: readonly Change[]): string {
  if (changes.length === 0) return 'nothing is tried'
  const kinds = [...new Set(changes.map((c) => c.kind))]
  return kinds
    .map((kind) => {
      const { word, several = word } = kindOf(kind)
      return counted(changes.filter((c) => c.kind === kind).length, word, several)
    })
    .join(', ')
}
