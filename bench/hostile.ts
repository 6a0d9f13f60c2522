import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { gzipSync } from 'node:zlib'
import { strToU8, zipSync } from 'fflate'
import { buildDemo } from '../demo/build'
import { openDatabase } from '../server/kernel/db/open'
import { figures } from './figures'
import { withServer, type Served } from './serve'

const COURSE = 'cfs214-2026'
const MB = 1024 * 1024

/** A workbook of one sheet with the cells given as XML. */
function workbook(rows: string): string {
  const type = 'application/vnd.openxmlformats-officedocument.spreadsheetml'
  const rel = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships'
  const parts = {
    '[Content_Types].xml': `<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/xl/workbook.xml" ContentType="${type}.sheet.main+xml"/><Override PartName="/xl/worksheets/sheet1.xml" ContentType="${type}.worksheet+xml"/></Types>`,
    '_rels/.rels': `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="${rel}/officeDocument" Target="xl/workbook.xml"/></Relationships>`,
    'xl/_rels/workbook.xml.rels': `<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="${rel}/worksheet" Target="worksheets/sheet1.xml"/></Relationships>`,
    'xl/workbook.xml': `<workbook xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" xmlns:r="${rel}"><sheets><sheet name="M" sheetId="1" r:id="r1"/></sheets></workbook>`,
    'xl/worksheets/sheet1.xml': `<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${rows}</sheetData></worksheet>`,
  }
  return Buffer.from(zipSync(Object.fromEntries(Object.entries(parts).map(([name, xml]) => [name, strToU8(xml)])))).toString('base64')
}

const FAR = workbook('<row r="1"><c r="A1"><v>1</v></c></row><row r="1048576"><c r="XFD1048576"><v>1</v></c></row>')
const letters = (i: number): string => (i < 26 ? '' : letters(Math.floor(i / 26) - 1)) + String.fromCharCode(65 + (i % 26))
const FULL = workbook(
  Array.from({ length: 6000 }, (_, r) => {
    const cells = Array.from({ length: 200 }, (_, c) => `<c r="${letters(c)}${r + 1}"><v>1</v></c>`)
    return `<row r="${r + 1}">${cells.join('')}</row>`
  }).join(''),
)
const tryMarks = `/api/courses/${COURSE}/marks-file/try`

type Throw = (s: Served, lead: string) => Promise<Response>
const marks =
  (body: { text: string } | { file: string }): Throw =>
  (s, lead) =>
    s.send('POST', tryMarks, lead, body)

/** Each made to hold the server up, from outside or by a lead. */
const HOSTILE: Record<string, Throw> = {
  'gzip of 200 MB from a stranger': (s) =>
    s.send('POST', tryMarks, '', gzipSync(Buffer.alloc(200 * MB, 32)), { 'content-encoding': 'gzip' }),
  'JSON nested a million deep': (s, lead) => s.send('POST', tryMarks, lead, '['.repeat(1_000_000)),
  'JSON of four million values': (s, lead) => s.send('POST', tryMarks, lead, `[${'0,'.repeat(4_000_000)}0]`),
  'box, 120,000 bad lines': (s, lead) => s.send('POST', `/api/courses/${COURSE}/deliveries/collect`, lead, {}),
  'stock of 600 long comments by a marker': async (s) => {
    const marker = await s.signIn('rune.daal')
    let last: Response | null = null
    for (let i = 0; i < 600; i++)
      last = await s.send('POST', `/api/courses/${COURSE}/kept-comments`, marker, { words: `${i} `.padEnd(500, 'x') })
    return last!
  },
  'CSV, 60,000 columns': marks({ text: `candidate,${Array.from({ length: 60_000 }, (_, i) => `m${i}`).join(',')}\n1\n` }),
  'CSV, 60,000 doubled headings': marks({ text: `candidate,${'Sketch map,'.repeat(60_000)}\n1\n` }),
  'CSV, 100,000 rows of near misses': marks({ text: `candidate,Sketch map\n${'214-0x9,7½\n'.repeat(100_000)}` }),
  'workbook, one cell at the far corner': marks({ file: FAR }),
  'workbook, 1,200,000 cells': marks({ file: FULL }),
  'two far workbooks at once': async (s, lead) => {
    const [one] = await Promise.all([marks({ file: FAR })(s, lead), marks({ file: FAR })(s, lead)])
    return one
  },
}

/** How long the server takes to say that it is well while each is thrown at it, beside when nothing is. */
export async function benchHostile(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'level-table-bench-'))
  const made = openDatabase(join(folder, 'level-table.db'))
  buildDemo(made)
  made.close()
  const box = join(folder, 'submission-box', COURSE)
  mkdirSync(box, { recursive: true })
  writeFileSync(
    join(box, 'deliveries.csv'),
    `file,candidate,assessment,came at\n${'"never closed,214-001,Sketch map,yesterday\n../../x,1,2,3\n'.repeat(60_000)}`,
  )
  try {
    await withServer(folder, async (served) => {
      const lead = await served.signIn('ines.valdry')
      const health = async () => {
        const from = performance.now()
        await (await served.send('GET', '/api/health', '')).text()
        return performance.now() - from
      }
      for (let i = 0; i < 200; i++) await health()
      const quiet: number[] = []
      for (let i = 0; i < 500; i++) quiet.push(await health())
      const at = figures(quiet)
      console.log(`\nHealth while something is thrown at the server; quiet p99 ${at.p99.toFixed(1)} ms, longest ${at.most.toFixed(1)} ms`)
      for (const [what, hurl] of Object.entries(HOSTILE)) {
        const times: number[] = []
        let answered: number | string | null = null
        const from = performance.now()
        const done = hurl(served, lead).then(
          async (r) => {
            await r.text()
            answered = r.status
          },
          (e: unknown) => (answered = e instanceof Error ? e.message : String(e)),
        )
        while (answered === null) times.push(await health())
        await done
        const took = performance.now() - from
        for (let i = 0; i < 100; i++) times.push(await health())
        const { p99, most } = figures(times)
        console.log(
          `  ${what.padEnd(38)} ${String(answered).padStart(4)} after ${took.toFixed(0).padStart(6)} ms; health p99 ${p99.toFixed(1).padStart(6)} ms, longest ${most.toFixed(1).padStart(6)} ms`,
        )
      }
    })
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
