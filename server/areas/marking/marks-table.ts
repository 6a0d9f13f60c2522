import { writeCellText } from '#core/exchange/cell-text'
import { AS_OF, headingOf } from '#core/exchange/marks-file'
import type { ColumnKind } from '#core/exchange/workbook'
import { cellAt, type Cell, type SheetByCell } from '#contract'

/** A mark as it stands in a file, to three decimals: a rubric's total scaled to what it is marked out of has no end of them. */
export const inFile = (mark: number | null): number | null => (mark === null ? null : Number(mark.toFixed(3)))

const textOf = (c: Cell): string => writeCellText(c.fromReadings ? { ...c, mark: inFile(c.fromReadings.mark) } : c)

/**
 * The sheet as a table: who, and a column for each assessment, those marked by readings too as far as one may see their marks; it is
 * read back by the same headings, and merged with what was changed since it was taken out.
 */
export function marksTable(sheet: SheetByCell, asOf: string): string[][] {
  const { students, assessments, sections } = sheet
  const sectionOf = new Map(sections.map((s) => [s.id, s.name]))
  const textAt = (at: number) => {
    const cell = cellAt(sheet, at)
    return cell ? textOf(cell) : ''
  }
  return [
    ['candidate', 'name', 'section', ...assessments.map((a) => headingOf(a.title)), AS_OF],
    ...students.map((s, row) => [
      s.candidate,
      s.name,
      sectionOf.get(s.sectionId) ?? '',
      ...assessments.map((_, column) => textAt(row * assessments.length + column)),
      asOf,
    ]),
  ]
}

/** What stands in its columns, for a workbook: marks between who it is and when it was taken out. */
export const marksKinds = (header: readonly string[]): ColumnKind[] =>
  header.map((_, i) => (i < 3 || i === header.length - 1 ? 'text' : 'mark'))
