/** What one adjustment made of a mark. */
export interface Step {
  adjustmentId: string
  mark: number
}

/** The marks that stand, by cell; NaN for none. */
export interface Standing {
  /** Place in SOURCES. */
  source: Uint8Array
  /** Before adjustments. */
  plain: Float64Array
  /** What counts. */
  mark: Float64Array
  /** What each adjustment made of it, of the cells that there are any of. */
  steps: ReadonlyMap<number, readonly Step[]>
}
