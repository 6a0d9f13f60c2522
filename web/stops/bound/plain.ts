import { gradeCounts } from '#core/grades'
import { withoutRescaling, type CourseState } from '../../course/state'

export interface PlainFigures {
  /** Percents as they would be graded without any rescaling. */
  percents: number[]
  counts: { grade: string; count: number }[]
}

/** The distribution as it was marked, under the lines as they are tried; null where nothing is rescaled. */
export function plainFigures(state: CourseState): PlainFigures | null {
  const plain = withoutRescaling(state)
  if (!plain) return null
  const { result } = plain
  return { percents: result.students.flatMap((s) => s.rounded ?? []), counts: gradeCounts(result) }
}
