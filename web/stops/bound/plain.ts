import { gradeCounts } from '#core/grades'
import type { CourseState } from '../../course/state'

export interface PlainFigures {
  /** Percents as they would be graded without any rescaling. */
  percents: number[]
  counts: { grade: string; count: number }[]
}

/** The distribution as it was marked, under the lines as they are tried; null where nothing is rescaled. */
export function plainFigures({ tried, current }: CourseState): PlainFigures | null {
  if (!tried.adjustments.some((a) => a.on)) return null
  const { result } = current.with({ ...tried, adjustments: [] })
  return { percents: result.students.flatMap((s) => s.rounded ?? []), counts: gradeCounts(result) }
}
