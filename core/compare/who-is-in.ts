/** How many students a figure counts, and of how many. */
export interface WhoIsIn {
  of: 'assessment' | 'component' | 'course'
  counted: number
  all: number
  /** Of those counted: who has no mark, or percent, that is final yet. */
  notFinal: number
}

/**
 * The one rule for who is in the figures of an assessment, a component or the course, in a sentence beside them: of an assessment
 * whoever has a mark, or readings that are not settled, at their mean; of a component whoever has all its marks; of the course whoever
 * has a percent, the percent so far where it is not final.
 */
export function whoIsIn({ of, counted, all, notFinal }: WhoIsIn): string {
  const some = `${counted === all ? `All ${all}` : `${counted} of ${all}`} students are in these figures`
  if (of === 'component') return `${some}: whoever has all marks of it.`
  const unless =
    of === 'assessment'
      ? `, ${notFinal} of them with readings that are not settled, at their mean`
      : `, ${notFinal} of them with the percent so far, as it is not final`
  return `${some}: whoever has a ${of === 'assessment' ? 'mark' : 'percent'}${notFinal > 0 ? unless : ''}.`
}
