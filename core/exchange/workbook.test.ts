import { strFromU8, strToU8, unzipSync } from 'fflate'
import { readWorkbook } from './read-workbook'
import { writeSheets, writeWorkbook } from './workbook'

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

const MARKS = ['candidate', 'Essay']
const book = (...sheets: [string, string[], string[][]][]) =>
  writeSheets(sheets.map(([title, header, rows]) => ({ title, header, rows, kinds: ['text', 'mark'] })))
/** With one part of it written otherwise. */
const edited = (files: ReadonlyMap<string, Uint8Array>, path: string, edit: (xml: string) => string) =>
  new Map([...files, [path, strToU8(edit(strFromU8(files.get(path)!)))]])

test('sheets of one form are read together, their lines counted on; others are offered, and read by their columns when chosen', async () => {
  const files = parts(
    await book(
      ['Alidade & Co', MARKS, [['0412', '17']]],
      ['Notes', ['what'], [['read on Monday']]],
      ['Groma', MARKS, [['0501', '12'], ['0502', '9']]], // prettier-ignore
      ['Late', ['Essay', 'candidate', 'why'], [['3', '601', 'ill']]],
    ),
  )
  const read = await readWorkbook(files)
  expect(read.rows).toEqual([
    { line: 2, cells: ['0412', '17'] },
    { line: 4, cells: ['0501', '12'] },
    { line: 5, cells: ['0502', '9'] },
  ])
  expect(read.sheets.map((s) => [s.name, s.chosen, s.linesBefore])).toEqual([
    ['Alidade & Co', true, 0],
    ['Notes', false, 0],
    ['Groma', true, 2],
    ['Late', false, 0],
  ])
  const chosen = await readWorkbook(files, { chosen: ['Groma', 'Late'] })
  expect([chosen.header, chosen.rows.at(-1)]).toEqual([[...MARKS, 'why'], { line: 5, cells: ['601', '3', 'ill'] }])
  expect((await readWorkbook(files, { alone: true })).rows).toHaveLength(1)
})

test('a hidden sheet is read only when it is chosen, and a sheet that cannot be read only matters when it is meant', async () => {
  const plain = parts(await book(['Old', MARKS, [['1', '2']]], ['Marks', MARKS, [['0412', '17']]], ['Sums', MARKS, [['x', '5']]]))
  const hidden = edited(plain, 'xl/workbook.xml', (xml) => xml.replace('name="Old"', 'name="Old" state="hidden"'))
  const files = edited(hidden, 'xl/worksheets/sheet3.xml', (xml) => xml.replace('<v>5</v>', '<f>SUM(A1:A2)</f><v>5</v>'))
  const read = await readWorkbook(files)
  expect(read.rows.map((r) => r.cells)).toEqual([['0412', '17']])
  expect(read.sheets.map((s) => [s.name, s.hidden, s.chosen])).toEqual([
    ['Old', true, false],
    ['Marks', false, true],
    ['Sums', false, false],
  ])
  expect((await readWorkbook(files, { chosen: ['Old'] })).rows.map((r) => r.cells)).toEqual([['1', '2']])
  await expect(readWorkbook(files, { chosen: ['Sums'] })).rejects.toThrow('Cell B2 holds a formula')
})

test('a percent keeps its sign, and an error is what it says', async () => {
  const written = await writeSheets([{ title: 'M', header: MARKS, rows: [['0412', 75], ['0413', 7.1], ['0414', 3]], kinds: ['text', 'percent'] }]) // prettier-ignore
  const files = edited(parts(written), 'xl/worksheets/sheet1.xml', (xml) =>
    xml.replace(/<c r="B4"[^>]*><v>[^<]*<\/v>/, '<c r="B4" t="e"><v>#N/A</v>'),
  )
  expect((await readWorkbook(files)).rows.map((r) => r.cells[1])).toEqual(['75%', '7.1%', '#N/A'])
})
