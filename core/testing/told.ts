import type { Standing } from '../trial/standing'

/** What stands, with all that is told only when asked for. */
export const told = ({ steps, ...standing }: Standing) => ({
  ...standing,
  steps: new Map([...steps].map(([column, taken]) => [column, new Map(taken())])),
})
