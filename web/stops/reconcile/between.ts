import type { AgreeRule } from '#core/agree'
import type { AgreedBetween } from '#contract'

/** What two readers agreed on, as the lead settles by it: their mark, with what they said. */
export const agreedBetween = ({ by, answeredBy, mark, reason }: AgreedBetween): AgreeRule => ({
  kind: 'value',
  mark,
  reason: answeredBy ? `Agreed between ${by} and ${answeredBy}: ${reason}` : `Proposed by ${by}: ${reason}`,
})

/** Whether it is agreed, and about the readings that there are. */
export const isAgreed = (b: Pick<AgreedBetween, 'holds' | 'agrees'>): boolean => b.holds && b.agrees === true
