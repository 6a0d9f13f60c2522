import type { StandardOf } from './way'

/** The kind of standard that each way of marking goes by, in the order in which they are offered; null where it needs none. */
const GOES_BY = { direct: null, rubric: 'rubric', scheme: 'scheme', judgement: 'scale', completion: null } as const satisfies Record<
  string,
  StandardOf['kind'] | null
>
export type Marking = keyof typeof GOES_BY
export const MARKINGS = Object.keys(GOES_BY) as [Marking, ...Marking[]]

export const standardOf = (marking: Marking): StandardOf['kind'] | null => GOES_BY[marking]
/** The way that marks by a kind of standard. */
export const markingBy = (kind: StandardOf['kind']): Marking => MARKINGS.find((m) => GOES_BY[m] === kind)!
