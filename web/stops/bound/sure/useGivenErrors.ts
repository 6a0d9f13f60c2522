import { useState } from 'react'
import type { GivenErrors } from '#core/trial'
import { useCourse } from '../../../course/course'

const kept = (courseId: string) => `reading errors ${courseId}`

/** What a person says of how far readings of an assessment are off, where its readings do not tell; kept in this browser. */
export function useGivenErrors(): [given: GivenErrors, give: (assessmentId: string, error: number | null) => void] {
  const { id } = useCourse()
  const [given, setGiven] = useState<GivenErrors>(() => JSON.parse(localStorage.getItem(kept(id)) ?? '{}') as GivenErrors)
  const give = (assessmentId: string, error: number | null) => {
    const { [assessmentId]: _, ...others } = given
    const next = error === null ? others : { ...others, [assessmentId]: error }
    localStorage.setItem(kept(id), JSON.stringify(next))
    setGiven(next)
  }
  return [given, give]
}
