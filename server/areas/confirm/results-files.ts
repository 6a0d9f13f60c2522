import { writeDelimited } from '#core/exchange/write-delimited'
import { writeSheets } from '#core/exchange/workbook'
import type { IssueContent } from '#contract'

const percent = (x: number | null) => (x === null ? '' : Number(x.toFixed(3)))

function rowsOf(content: IssueContent): { head: string[]; rows: (string | number)[][] } {
  const rescaled = content.results.some((r) => r.adjusted !== undefined)
  const head = [
    'candidate',
    'name',
    'section',
    ...content.components.map((c) => `${c.title} %`),
    'course %',
    ...(rescaled ? ['course %, rescaled'] : []),
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
    ...(rescaled ? [percent(r.adjusted ?? null)] : []),
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

export function resultsXlsx(content: IssueContent): Promise<Uint8Array> {
  const { head, rows } = rowsOf(content)
  const how = [
    ['course', `${content.course.code} ${content.course.title}, ${content.course.term}`],
    ...content.components.map((c) => [`weight of ${c.title}`, c.weight ?? ''] as const),
    ...content.boundaries.map((b) => [`${b.grade} begins at`, b.from] as const),
  ]
  return writeSheets([
    { title: `Issue ${content.number}`, header: head, rows, held: 2 },
    { title: 'How', header: ['what', 'value'], rows: how },
  ])
}
