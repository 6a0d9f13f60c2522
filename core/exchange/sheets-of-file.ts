/** A sheet of a workbook that a file is, and whether it is read. */
export interface SheetOfFile {
  name: string
  hidden: boolean
  chosen: boolean
  /** Lines of the sheets before it, which its own are counted on from. */
  linesBefore: number
}
