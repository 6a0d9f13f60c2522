import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { readBoxList } from './box-list'

let folder: string
let path: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'level-table-box-'))
  path = join(folder, 'deliveries.csv')
})
afterAll(() => rmSync(folder, { recursive: true }))

const HEAD = 'file,candidate,assessment,came at'
const read = (text: string | Buffer) => {
  writeFileSync(path, text)
  return readBoxList({ path })
}

test('a box without a list holds nothing', async () => {
  expect(await readBoxList({ path: join(folder, 'none.csv') })).toEqual({ rows: [], faults: [] })
})

test('each bad line is named, and the good ones between them are there', async () => {
  const list = [
    HEAD,
    '"open,1,Sketch map,2026-10-05T10:00:00Z',
    'a.txt,214-001,Sketch map,2026-10-05T12:00:00+02:00',
    '../b.txt,214-001,Sketch map,2026-10-05T10:00:00Z',
    '',
    'deliveries.csv,214-001,Sketch map,2026-10-05T10:00:00Z',
    'c.txt,214-001,Sketch map,yesterday',
  ]
  expect(await read(`\uFEFF${list.join('\r\n')}`)).toEqual({
    rows: [{ fileName: 'a.txt', candidate: '214-001', assessment: 'Sketch map', cameAt: '2026-10-05T10:00:00.000Z' }],
    faults: [
      'Line 2 is not well formed: a quotation mark is not closed, or stands where none should be.',
      'Line 4: “../b.txt” is not the name of a file.',
      'Line 6: deliveries.csv is this list itself.',
      'Line 7, c.txt: “yesterday” is not a date and time.',
    ],
  })
})

test('a list without its columns, too large or not text is refused in words', async () => {
  expect(await read('name,when\na,b\n')).toMatch(/needs the columns file, candidate, assessment and came at/)
  expect(await read(Buffer.alloc(5 * 2 ** 20 + 1, 44))).toMatch(/over 5 MB/)
  expect(await read(Buffer.from([0x66, 0xff, 0x00, 0x0a]))).toMatch(/^The list of the submission box: /)
})

test('beyond 5000 lines the rest waits, said', async () => {
  const list = (await read(`${HEAD}\n${'a.txt,1,S,2026-10-05T10:00:00Z\n'.repeat(6000)}`)) as { rows: unknown[]; faults: string[] }
  expect([list.rows.length, list.faults]).toEqual([4999, [expect.stringMatching(/more than 5000 lines/)]])
})
