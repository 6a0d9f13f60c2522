import type { GivenErrors } from '#core/trial'
import { useDecidedCourse } from '../course/course'
import { useKeptHere } from '../settings/useKeptHere'

const NOTHING: GivenErrors = {}

/** What a person says of how far readings of an assessment are off, where its readings do not tell. */
export function useGivenErrors(): [given: GivenErrors, give: (assessmentId: string, error: number | null) => void] {
  const { id } = useDecidedCourse()
  const [given, keep] = useKeptHere(`reading errors ${id}`, NOTHING)
  const give = (assessmentId: string, error: number | null) => {
    const { [assessmentId]: _, ...others } = given
    keep(error === null ? others : { ...others, [assessmentId]: error })
  }
  return [given, give]
}
