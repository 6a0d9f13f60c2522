import { strFromU8, unzipSync } from 'fflate'
import { readWorkbook, writeSheets, writeWorkbook } from './workbook'

const parts = (book: Uint8Array) => new Map(Object.entries(unzipSync(book)))
/** A cell as it stands in the sheet’s XML: its type, its format’s code, and what it holds. */
function cellIn(book: Uint8Array, at: string): { type: string | undefined; format: string | undefined; holds: string | undefined } {
  const files = parts(book)
  const sheet = strFromU8(files.get('xl/worksheets/sheet1.xml')!)
  const styles = strFromU8(files.get('xl/styles.xml')!)
  const [, attributes = '', inside = ''] = new RegExp(`<c r="${at}"([^>]*)>(.*?)</c>`).exec(sheet) ?? []
  const style = Number(/\bs="(\d+)"/.exec(attributes)?.[1])
  const xf = /numFmtId="(\d+)"/.exec([...styles.split('<cellXfs')[1]!.matchAll(/<xf\b[^>]*>/g)][style]?.[0] ?? '')?.[1]
  const format = [...styles.matchAll(/<numFmt\b[^>]*>/g)].map(([x]) => x).find((x) => x.includes(`numFmtId="${xf}"`))
  return {
    type: /\bt="(\w+)"/.exec(attributes)?.[1],
    format: /formatCode="([^"]*)"/.exec(format ?? '')?.[1],
    holds: /<v>(.*?)<\/v>/.exec(inside)?.[1],
  }
}

test('cells are what they are: marks numbers, percents percents, days days; what looks like a number and is a name stays a text', async () => {
  const book = await writeSheets([
    {
      title: 'Marks',
      header: ['candidate', 'Essay', 'course %', 'starts'],
      kinds: ['text', 'mark', 'percent', 'day'],
      rows: [
        ['0412', '17.5', 71.25, '2026-09-07'],
        ['0413', '17 late 2', '', ''],
        ['0414', 'exempt', 100, 'some day'],
      ],
    },
  ])
  expect(cellIn(book, 'A2').type).toBe('s')
  expect(cellIn(book, 'B2')).toEqual({ type: undefined, format: '0.###', holds: '17.5' })
  expect(cellIn(book, 'C2')).toEqual({ type: undefined, format: '0.0##%', holds: '0.7125' })
  // The day that a spreadsheet counts from the end of 1899.
  expect(cellIn(book, 'D2')).toEqual({ type: undefined, format: 'yyyy-mm-dd', holds: '46272' })
  expect([cellIn(book, 'B3').type, cellIn(book, 'B4').type, cellIn(book, 'D4').type]).toEqual(['s', 's', 's'])
  const sheet = strFromU8(parts(book).get('xl/worksheets/sheet1.xml')!)
  expect(sheet).toMatch(/<pane\b[^>]*ySplit="1"[^>]*state="frozen"/)
})

test('a roll and a sheet read back as they were written', async () => {
  const header = ['candidate', 'name', 'Essay', 'from']
  const rows = [
    ['0412', '=SUM(A1)', '17.5', '2026-02-28'],
    ['1e3', ' tab\there', '17 late 2', '2026-12-31'],
    ['12', 'नीलम ऋषि', '0', ''],
  ]
  const read = await readWorkbook(parts(await writeWorkbook('Marks', header, rows, ['text', 'text', 'mark', 'day'])))
  expect(read.header).toEqual(header)
  expect(read.rows.map((r) => r.cells)).toEqual(rows.map((cells) => cells.map((c) => c.trim())))
})
