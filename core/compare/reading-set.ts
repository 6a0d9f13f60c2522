/** Readings as columns: whose, of which script, and the mark; with a criterion each where marks are points of one. */
export interface ReadingSet {
  script: ArrayLike<number>
  marker: ArrayLike<number>
  mark: ArrayLike<number>
  criterion?: ArrayLike<number>
  /** How many of each there are; places go from 0 to below it. */
  scripts: number
  markers: number
  criteria?: number
}
