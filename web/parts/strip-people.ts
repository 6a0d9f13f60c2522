import type { CourseResult } from '#core/grades'
import { percentOf } from '#core/rescale'

/** A person on the strip; not final where something is pending. */
export interface StripPerson {
  id: string
  value: number
  final: boolean
}

export const peopleOf = ({ students }: Pick<CourseResult, 'students'>): StripPerson[] =>
  students.flatMap((s) => {
    const value = percentOf(s)
    return value === null ? [] : [{ id: s.studentId, value, final: s.final !== null }]
  })
