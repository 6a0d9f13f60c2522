import { parse } from 'csv-parse/sync'
import { LENIENT } from './separator'
import { Parser } from 'htmlparser2'
import { FileError } from './delimited'

const MAX_ROWS = 500
const MAX_COLUMNS = 100
const MAX_CHARS = 2_000_000
const MAX_CELL = 4_000
const BREAKS = new Set(['br', 'p', 'div', 'li', 'h1', 'h2', 'h3', 'h4'])
const SILENT = new Set(['script', 'style', 'template', 'noscript'])

interface Open {
  rows: string[][]
  /** Cells that a taller one above fills, by row and column. */
  filled: Map<string, string>
  row: number
  column: number
  cell: { text: string; across: number; down: number } | null
}

/**
 * The tables of some HTML as rows of plain text, outermost first; a cell that spans others stands in all of them. Nothing of
 * the markup is kept and nothing of it runs. A table inside a cell is text of that cell.
 * @throws FileError for more than 2 million characters
 */
export function tablesFromHtml(html: string): string[][][] {
  if (html.length > MAX_CHARS) throw new FileError('What was pasted is over 2 million characters: copy the table alone.')
  const tables: string[][][] = []
  let open: Open | null = null
  let nested = 0
  let silent = 0
  const endCell = () => {
    if (!open?.cell) return
    const { across, down } = open.cell
    const text = open.cell.text
      .replace(/[ \t\u00a0]+/g, ' ')
      .replace(/ ?\n ?/g, '\n')
      .replace(/\n+/g, '\n')
      .trim()
      .slice(0, MAX_CELL)
    for (let r = 0; r < down; r++)
      for (let c = 0; c < across; c++) if (open.column + c < MAX_COLUMNS) open.filled.set(`${open.row + r} ${open.column + c}`, text)
    open.column += across
    open.cell = null
  }
  const endRow = () => {
    if (!open || open.row < 0) return
    endCell()
    const row: string[] = []
    for (let c = 0; c < MAX_COLUMNS; c++) {
      const text = open.filled.get(`${open.row} ${c}`)
      if (text === undefined && c >= open.column) break
      row.push(text ?? '')
    }
    if (open.rows.length < MAX_ROWS) open.rows[open.row] = row
  }
  const span = (value: string | undefined, most: number) => Math.max(1, Math.min(most, Math.floor(Number(value)) || 1))
  const parser = new Parser({
    onopentag(name, attributes) {
      if (SILENT.has(name)) silent++
      if (name === 'table') {
        if (open) nested++
        else open = { rows: [], filled: new Map(), row: -1, column: 0, cell: null }
      } else if (open && nested === 0 && name === 'tr') {
        endRow()
        open.row++
        open.column = 0
      } else if (open && nested === 0 && open.row >= 0 && open.row < MAX_ROWS && (name === 'td' || name === 'th')) {
        endCell()
        while (open.filled.has(`${open.row} ${open.column}`)) open.column++
        open.cell = { text: '', across: span(attributes.colspan, MAX_COLUMNS), down: span(attributes.rowspan, MAX_ROWS) }
      } else if (open?.cell && BREAKS.has(name)) open.cell.text += '\n'
    },
    ontext(text) {
      if (open?.cell && silent === 0 && open.cell.text.length < MAX_CELL * 2) open.cell.text += text.replace(/\s+/g, ' ')
    },
    onclosetag(name) {
      if (SILENT.has(name)) silent = Math.max(0, silent - 1)
      if (name === 'table' && nested > 0) nested--
      else if (name === 'table' && open) {
        endRow()
        const rows = Array.from(open.rows, (r) => r ?? []).filter((r) => r.some((c) => c !== ''))
        if (rows.length > 0) tables.push(rows)
        open = null
      }
    },
  })
  parser.write(html)
  parser.end()
  return tables
}

/** A table copied as text, cells apart by tabs; a table of one column is none. */
export function tablesFromText(text: string): string[][][] {
  const rows = linesIn(text.slice(0, MAX_CHARS))
    .slice(0, MAX_ROWS)
    .map((cells) => cells.slice(0, MAX_COLUMNS).map((c) => c.trim().slice(0, MAX_CELL)))
    .filter((row) => row.some((c) => c !== ''))
  return rows.some((row) => row.length > 1) ? [rows] : []
}

/** Cells between tabs, of which one in quotation marks may have line breaks; where the marks do not fit, each line is a row. */
function linesIn(text: string): string[][] {
  try {
    return parse(text, { ...LENIENT, delimiter: '\t' })
  } catch {
    return text.split(/\r?\n/).map((line) => line.split('\t'))
  }
}
