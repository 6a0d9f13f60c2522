/** What an assessment takes as a mark. */
export interface TakesMarks {
  outOf: number
  /** A bonus may take points off. */
  bonus: boolean
  /** Done or not done: all of it, or nothing. */
  completion: boolean
}

/** Why an assessment does not take a mark, in a sentence; null where it does. */
export function whyNoMark(mark: number, { outOf, bonus, completion }: TakesMarks): string | null {
  if (mark > outOf) return `${mark} is over the maximum of ${outOf}.`
  if (mark < 0 && !bonus) return `${mark} is below 0, which only a bonus may be.`
  if (mark < -outOf) return `${mark} takes off more than ${outOf}, what the bonus is out of.`
  if (completion && mark !== 0 && mark !== outOf) return `It is done, ${outOf}, or not done, 0.`
  return null
}
