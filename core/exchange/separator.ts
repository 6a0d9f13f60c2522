import { parse } from 'csv-parse/sync'

interface Row {
  line: number
  cells: string[]
}

const SEPARATORS = [';', '\t', ','] as const

/** Rows that are looked at to tell what separates cells. */
const LOOKED_AT = 200

/** The line in which some spreadsheets say what they separate by. */
export const SAYS_SEPARATOR = /^sep=([,;\t])\r?\n/i

/**
 * What separates the cells of a text: what gives the heading two columns or more, and most rows as many as the heading has. Of two that
 * do so alike it is the one with more columns, and a comma last, since a comma may be a decimal sign or part of a name.
 * @param tableOf the heading among rows, and what is beneath it
 * @returns null where nothing parts any row
 */
export function separatorOf(text: string, tableOf: (rows: Row[]) => { header: string[]; rows: Row[] }): string | null {
  const tried = SEPARATORS.map((separator) => {
    const rows = firstRows(text, separator)
    const { header, rows: beneath } = tableOf(rows)
    const width = filledWidth(header)
    const alike = beneath.filter(({ cells }) => cells.length > 1 && filledWidth(cells) <= width)
    return {
      separator,
      width,
      share: width < 2 ? 0 : beneath.length === 0 ? 1 : alike.length / beneath.length,
      widest: Math.max(0, ...rows.map((r) => filledWidth(r.cells))),
    }
  }).filter(({ widest }) => widest > 1)
  return tried.sort((a, b) => b.share - a.share || b.width - a.width || b.widest - a.widest)[0]?.separator ?? null
}

const filledWidth = (row: readonly string[]): number => row.findLastIndex((c) => c !== '') + 1

/** The first rows of a text; those before a fault where it has one, which is said when all of it is read. */
function firstRows(text: string, delimiter: string): Row[] {
  const rows: Row[] = []
  const keep = (cells: string[], { lines }: { lines: number }) => (rows.push({ line: lines, cells }), null)
  try {
    parse(text, { ...LENIENT, delimiter, to: LOOKED_AT, on_record: keep })
  } catch {
    return rows
  }
  return rows
}

/** Rows may differ in length, and a quotation mark inside a cell is a character. */
export const LENIENT = { relax_column_count: true, relax_quotes: true, skip_empty_lines: true, trim: true } as const

/** Why a text cannot be read as CSV, and in which line. */
export function whyNoCsv(e: unknown): { reason: string; line: number } {
  const { code, lines = 1 } = e as { code?: string; lines?: number }
  const reason =
    code === 'CSV_QUOTE_NOT_CLOSED'
      ? 'A quotation mark opens a cell, and none closes it before the file ends.'
      : code === 'CSV_NON_TRIMABLE_CHAR_AFTER_CLOSING_QUOTE'
        ? 'Something stands after the quotation mark that closes a cell. A quotation mark inside a cell is written twice.'
        : 'The file breaks off here. Save it again as CSV (UTF-8).'
  return { reason, line: lines }
}
