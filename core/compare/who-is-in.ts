/** How many students a figure counts, and of how many. */
export interface WhoIsIn {
  of: 'assessment' | 'component' | 'course'
  counted: number
  all: number
  /** Of those counted: students whose mark is not settled, or whose percent is not final. */
  notFinal: number
}

/**
 * The one rule for the students in the figures of an assessment, a component or the course, in words to stand beside them.
 * Assessment: students with a mark, or with readings that are not settled, at their mean. Component: students with every mark in it.
 * Course: students with a percent, the percent so far where it is not final.
 */
export function whoIsIn({ of, counted, all, notFinal }: WhoIsIn): string {
  const whole = all === 1 ? 'student' : 'students'
  const students = counted < all ? `${counted} of ${all} ${whole}` : all === 1 ? 'the one student' : `all ${all} students`
  const those = all === 1 ? 'with' : 'those with'
  if (of === 'component') return `${students}, ${those} every mark in it`
  const has = `${students}, ${those} a ${of === 'assessment' ? 'mark' : 'percent'}`
  if (notFinal === 0) return has
  const instead = of === 'assessment' ? 'the mean of readings that are not settled yet' : 'the percent so far'
  return `${has}; for ${notFinal} of them ${instead}`
}
