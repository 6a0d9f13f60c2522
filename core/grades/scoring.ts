import type { Policy } from './course'
import { STATUS_CODE } from './pack'

/** What a status does to a mark under a policy. */
// 0: the mark as it stands; a blank is pending
export const TAKE_LATE = 1 // the mark, then the late rule
export const FIXED = 2 // a fraction given by policy
export const WAIT = 3 // pending, whatever stands in the cell
export const OUT = 4 // does not apply to this student

export interface StatusRules {
  /** Status code → one of the constants above. */
  action: Uint8Array
  /** Status code → the fraction of a FIXED status. */
  fixed: Float64Array
}

/** The policy as a table over status codes. */
export function statusRules(policy: Policy): StatusRules {
  const action = new Uint8Array(6)
  const fixed = new Float64Array(6)
  action[STATUS_CODE.late] = TAKE_LATE
  action[STATUS_CODE.exempt] = OUT
  action[STATUS_CODE.held] = WAIT
  action[STATUS_CODE.missing] = policy.missing.kind === 'pending' ? WAIT : FIXED
  fixed[STATUS_CODE.missing] = policy.missing.kind === 'floor' ? policy.missing.percent / 100 : 0
  action[STATUS_CODE.absent] = policy.absent.kind === 'pending' ? WAIT : policy.absent.kind === 'zero' ? FIXED : OUT
  return { action, fixed }
}

/** The fraction left of `fraction` after the late rule. */
export function afterLate(fraction: number, days: number, late: Policy['late']): number {
  switch (late.kind) {
    case 'none':
      return fraction
    case 'cap':
      return Math.min(fraction, late.percent / 100)
    case 'perDay':
      return Math.max(0, fraction - (Math.min(days, late.maxDays ?? Infinity) * late.percent) / 100)
  }
}
