import type { Boundary } from './course'

/** A condition is met or asks nothing; is not met; is not met and takes the grade down. */
export const MET = 0
export const UNMET = 1
export const HELD = 2

/** What stands in a column, where NaN stands for null. */
export const orNull = (x: number): number | null => (x !== x ? null : x)

/** Results as columns, one entry a student in roll order; NaN stands for null. */
export interface GradeTable {
  soFar: Float64Array
  lowest: Float64Array
  highest: Float64Array
  final: Float64Array
  /** The same array as `final` where nothing adjusts it. */
  adjusted: Float64Array
  rounded: Float64Array
  /** Index into `boundaries`, -1 for none. */
  grade: Int16Array
  pending: Int32Array
  /** students × components, of `soFar`. */
  componentPercent: Float64Array
  /** students × assessments: 1 where dropped. Null where no component drops. */
  dropped: Uint8Array | null
  /** students × conditions: MET, UNMET or HELD. Null where there are none. */
  conditions: Uint8Array | null
  /** Highest limit first. */
  boundaries: Boundary[]
}
