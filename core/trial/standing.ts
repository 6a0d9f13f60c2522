/** What one adjustment made of a mark. */
export interface Step {
  adjustmentId: string
  mark: number
}

/** By cell, of the cells that there are any of; told when somebody asks. */
export type StepsOfAssessment = () => ReadonlyMap<number, readonly Step[]>

/** The marks that stand, by cell; NaN for none. */
export interface Standing {
  /** Place in SOURCES. */
  source: Uint8Array
  /** Before adjustments. */
  plain: Float64Array
  /** What counts. */
  mark: Float64Array
  /** Place of an assessment that is rescaled → what each adjustment made of its marks. */
  steps: ReadonlyMap<number, StepsOfAssessment>
}
