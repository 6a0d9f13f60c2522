/** A group against all the others together. */
export interface Against {
  difference: number | null
  /** 95%; null where it cannot be told. */
  interval: readonly [low: number, high: number] | null
}

export interface SectionSays {
  words: string
  /** Whether its marking and its paper are to be looked at. */
  look: boolean
}

/** Values that a scale needs for a difference of means to say something about marking. */
const LEAST_VALUES = 5

const clear = ({ interval }: Against): boolean => interval !== null && (interval[0] > 0 || interval[1] < 0)

/**
 * What a section's figures say: whether its marks are higher or lower than the others', and whether that is its students or its marking.
 * Only a difference beyond the tolerance (large) whose interval leaves out 0 (clear) is put down to something.
 * @param here its marks against the others', as marked
 * @param there the same of its students' other work
 * @param given its marks against the others' once other work is taken into account
 * @param tolerance up to which a difference counts as level, in the unit of `here`
 * @param values how many different marks were given in all sections
 * @returns null where nothing can be said: without marks, and of work that is done or not done or has fewer than five values
 */
export function sectionSays(here: Against, there: Against, given: Against, tolerance: number, values: number): SectionSays | null {
  if (here.difference === null || values < LEAST_VALUES) return null
  const large = ({ difference }: Against) => difference !== null && Math.abs(difference) > tolerance
  const sign = Math.sign(here.difference)
  const side = sign > 0 ? 'higher' : 'lower'
  const chance = clear(here) ? '' : '; may be chance'
  const says = (words: string, look = false) => ({ words, look })
  if (given.difference === null) return says(large(here) ? `marked ${side} than the others${chance}` : 'level')
  if (large(given)) {
    const tells = given.difference > 0 ? 'higher' : 'lower'
    const marked = `marked ${tells} than its students’ other work tells`
    if (!clear(given)) return says(`${marked}; may be chance`)
    if (large(here)) return says(`${marked}: look at the marking and the paper`, true)
    const elsewhere = clear(there) && Math.sign(there.difference!) === -Math.sign(given.difference)
    return elsewhere
      ? says(
          `the marks look level, and its students do ${tells === 'higher' ? 'less well' : 'better'} elsewhere: look at the marking and the paper`,
          true,
        )
      : says(`looks level, but ${tells} than its students’ other work tells: look at the marking and the paper`, true)
  }
  if (!large(here)) return says('level')
  return clear(there) && Math.sign(there.difference!) === sign
    ? says(`${side}, and its students do ${sign > 0 ? 'better' : 'less well'} elsewhere: ${sign > 0 ? 'strong' : 'weaker'} students`)
    : says(`${side} here, not shown to be its students or its marking${chance}`)
}
