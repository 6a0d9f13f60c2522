import exceljs from 'exceljs'
import { writeDelimited } from '#core/exchange/write-delimited'
import type { IssueContent } from '#contract'

const percent = (x: number | null) => (x === null ? '' : Number(x.toFixed(3)))

function rowsOf(content: IssueContent): { head: string[]; rows: (string | number)[][] } {
  const head = [
    'candidate',
    'name',
    'section',
    ...content.components.map((c) => `${c.title} %`),
    'course %',
    'rounded',
    'grade',
    'pending',
    'issue',
  ]
  const rows = content.results.map((r) => [
    r.candidate,
    r.name,
    r.section,
    ...r.components.map((c) => percent(c.percent)),
    percent(r.final),
    r.rounded ?? '',
    r.grade ?? '',
    r.pending,
    content.number,
  ])
  return { head, rows }
}

/** RFC 4180 with BOM; a text that a spreadsheet would run as a formula is kept a text. */
export function resultsCsv(content: IssueContent): string {
  const { head, rows } = rowsOf(content)
  return writeDelimited([head, ...rows])
}

export async function resultsXlsx(content: IssueContent): Promise<Buffer> {
  const { head, rows } = rowsOf(content)
  const book = new exceljs.Workbook()
  const sheet = book.addWorksheet(`Issue ${content.number}`, { views: [{ state: 'frozen', xSplit: 2, ySplit: 1 }] })
  sheet.addRow(head).font = { bold: true }
  for (const row of rows) sheet.addRow(row.map((x) => (x === '' ? null : x)))
  sheet.columns.forEach((column, i) => {
    column.width = Math.max(10, (head[i] ?? '').length + 2, i === 1 ? 26 : 0)
    if (i > 2 && i < head.length - 4) column.numFmt = '0.0##'
  })
  const plan = book.addWorksheet('How')
  plan.addRow(['course', `${content.course.code} ${content.course.title}, ${content.course.term}`])
  for (const c of content.components) plan.addRow([`weight of ${c.title}`, c.weight])
  for (const b of content.boundaries) plan.addRow([`${b.grade} begins at`, b.from])
  plan.getColumn(1).width = plan.getColumn(2).width = 34
  return Buffer.from(await book.xlsx.writeBuffer())
}
