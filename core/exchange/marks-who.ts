/** By what a file says whose a mark is. */
export const WHO_BY = ['candidate', 'external id', 'e-mail', 'name'] as const
export type WhoBy = (typeof WHO_BY)[number]

/** How a table of marks is to be read, where somebody said so: whose, and which columns hold marks of what. All others are put aside. */
export interface MarksMatch {
  /** Sheets of a workbook that are meant, by name. */
  sheets?: string[] | undefined
  /** The line that the heading stands in. */
  headingLine?: number | undefined
  who?: { column: number; by: WhoBy } | undefined
  marks?: { column: number; assessment: string }[] | undefined
}

/** A table of marks as it was read. */
export interface MarksTable {
  header: string[]
  headingLine: number
  who: { column: number; by: WhoBy } | null
  /** Columns that hold marks, by the title of their assessment; none where each row names its own. */
  marks: { column: number; assessment: string }[]
}

/** How a table was matched by hand before; it serves for every one that has these columns. */
export interface KnownMarks {
  header: string[]
  who: NonNullable<MarksTable['who']>
  marks: MarksTable['marks']
}

/** How a table is read: as somebody says now, else as was said of one like it. */
export interface MarksRead extends MarksMatch {
  known?: readonly KnownMarks[] | undefined
}
