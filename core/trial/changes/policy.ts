import canonicalize from 'canonicalize'
import type { Policy } from '../../grades/course'
import { decimalsInWords } from '../../grades/rounding'
import type { ChangeKind } from './kind'

/** What missing, absent and late work counts, and how percents are rounded. */
export interface SetPolicy {
  kind: 'policy'
  policy: Policy
  /** The policies that it was set over: only those that differ are decided. Without it all are. */
  over?: Policy
}

const SAID: { [K in keyof Policy]: (of: Policy[K]) => string } = {
  missing: (m) => `missing ${m.kind === 'floor' ? `counts ${m.percent}%` : m.kind === 'zero' ? 'counts nothing' : 'is pending'}`,
  absent: (a) => `absent ${a.kind === 'zero' ? 'counts nothing' : a.kind}`,
  late: (l) => `late ${l.kind === 'none' ? 'costs nothing' : l.kind === 'cap' ? `at most ${l.percent}%` : `costs ${l.percent}% a day`}`,
  rounding: (r) => (r ? `rounded to ${decimalsInWords(r.decimals)}` : 'not rounded'),
  above100: (a) => (a === 'cap' ? 'at most 100' : 'above 100 allowed'),
}
const PARTS = Object.keys(SAID) as (keyof Policy)[]

const changed = ({ policy, over }: SetPolicy): (keyof Policy)[] =>
  over ? PARTS.filter((part) => canonicalize(policy[part]) !== canonicalize(over[part])) : PARTS

const sayOf = <K extends keyof Policy>(part: K, of: Policy): string => SAID[part](of[part])

export const policy: ChangeKind<SetPolicy> = {
  decides: 'plan',
  word: 'policies',
  target: () => '',
  merge: (earlier, later) => (earlier.over && later.over ? { ...later, over: earlier.over } : later),
  meets: (a, b) => changed(a).some((part) => changed(b).includes(part)),
  apply(draft, c) {
    draft.policy = { ...draft.policy, ...Object.fromEntries(changed(c).map((part) => [part, c.policy[part]])) }
  },
  check: () => undefined,
  words: (all) =>
    all.map(
      (c) =>
        `policies: ${changed(c)
          .map((part) => sayOf(part, c.policy))
          .join(', ')}`,
    ),
}
