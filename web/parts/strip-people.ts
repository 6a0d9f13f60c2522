import { orNull } from '#core/grades'
import { percentOf } from '#core/rescale'
import type { GradedColumns } from '#core/trial'

/** People on the strip, in columns: thousands are drawn anew at every pull of a point. */
export interface StripPeople {
  ids: readonly string[]
  value: Float64Array
  /** 0 where something is pending. */
  final: Uint8Array
}

/** Those who have a percent. */
export function peopleOf({ plan, table: { adjusted, soFar, final } }: GradedColumns): StripPeople {
  const percent = plan.studentIds.map((_, i) => percentOf({ adjusted: orNull(adjusted[i]!), soFar: orNull(soFar[i]!) }))
  const rows = percent.flatMap((p, i) => (p === null ? [] : i))
  return {
    ids: rows.map((i) => plan.studentIds[i]!),
    value: Float64Array.from(rows, (i) => percent[i]!),
    final: Uint8Array.from(rows, (i) => Number(orNull(final[i]!) !== null)),
  }
}
