/** How many students a figure counts, and of how many. */
export interface WhoIsIn {
  of: 'assessment' | 'component' | 'course'
  counted: number
  all: number
  /** Of those counted: students whose mark is not settled, or whose percent is not final. */
  notFinal: number
}

/**
 * The one rule for the students in the figures of an assessment, a component or the course, as a sentence to stand beside them.
 * Assessment: students with a mark, or with readings that are not settled, at their mean. Component: students with every mark in it.
 * Course: students with a percent, the percent so far where it is not final.
 */
export function whoIsIn({ of, counted, all, notFinal }: WhoIsIn): string {
  const students = `These figures count ${counted === all ? `all ${all}` : `${counted} of ${all}`} students`
  if (of === 'component') return `${students}: those with every mark in it.`
  const has = `${students}: those with a ${of === 'assessment' ? 'mark' : 'percent'}`
  if (notFinal === 0) return `${has}.`
  return of === 'assessment'
    ? `${has}. For ${notFinal} of them it is the mean of readings that are not settled yet.`
    : `${has}. For ${notFinal} of them it is the percent so far.`
}
