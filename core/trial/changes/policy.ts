import type { Policy } from '../../grades/course'
import type { ChangeKind } from './kind'

/** What missing, absent and late work counts, and how percents are rounded. */
export interface SetPolicy {
  kind: 'policy'
  policy: Policy
}

const said = ({ missing, absent, late, rounding, above100 }: Policy): string[] => [
  `missing ${missing.kind === 'floor' ? `counts ${missing.percent}%` : missing.kind === 'zero' ? 'counts nothing' : 'is pending'}`,
  `absent ${absent.kind === 'zero' ? 'counts nothing' : absent.kind}`,
  `late ${late.kind === 'none' ? 'costs nothing' : late.kind === 'cap' ? `at most ${late.percent}%` : `costs ${late.percent}% a day`}`,
  rounding ? `rounded to ${rounding.decimals} decimals` : 'not rounded',
  above100 === 'cap' ? 'at most 100' : 'above 100 allowed',
]

export const policy: ChangeKind<SetPolicy> = {
  decides: 'plan',
  word: 'policies',
  target: () => '',
  apply(draft, c) {
    draft.policy = c.policy
  },
  check: () => undefined,
  words: (all) => all.map((c) => `policies: ${said(c.policy).join(', ')}`),
}
