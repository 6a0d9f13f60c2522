import { once } from 'node:events'
import { mkdirSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import PDFDocument from 'pdfkit'
import type { Db } from '../server/kernel/db/open'
import { MAKERS_NOTE } from './piles'

const COURSE = 'cfs118-2026'

/** A sheet of work as a student hands it in: a title, a few paragraphs, and a drawn sketch. */
async function sheet(title: string, paragraphs: string[], shift: number): Promise<Buffer> {
  const pdf = new PDFDocument({ size: 'A4', margin: 64, info: { Title: title, CreationDate: new Date('2026-11-19T08:00:00Z') } })
  const parts: Buffer[] = []
  pdf.on('data', (part: Buffer) => parts.push(part))
  pdf.font('Times-Bold').fontSize(18).text(title).moveDown()
  pdf.font('Times-Roman').fontSize(11.5)
  for (const p of paragraphs) pdf.text(p, { lineGap: 3 }).moveDown(0.7)
  const y = pdf.y + 20
  pdf.lineWidth(3).moveTo(70, y + 160)
  pdf.bezierCurveTo(160 + shift, y + 20, 260, y + 260 - shift, 520, y + 60).stroke('#2F5F8F')
  for (let i = 1; i < 5; i++)
    pdf
      .lineWidth(0.7)
      .ellipse(300 + shift, y + 120, 40 * i, 22 * i)
      .stroke('#5A686B')
  pdf
    .font('Times-Italic')
    .fontSize(10)
    .fillColor('#1E2B2F')
    .text('the ford', 120 + shift, y + 112)
    .text('stile, moved', 330, y + 60)
  pdf
    .addPage()
    .font('Times-Roman')
    .fontSize(11.5)
    .text('Second sheet: the book of the closed run, as it was read.', { lineGap: 3 })
    .moveDown()
  for (let i = 0; i < 9; i++)
    pdf
      .font('Courier')
      .fontSize(10)
      .text(`${i + 1}   back 1.${(417 + i * 61 + shift) % 1000}   fore 1.${(288 + i * 47) % 1000}`)
  pdf.end()
  await once(pdf, 'end')
  return Buffer.concat(parts)
}

interface Handed {
  file: string
  candidate: string
  assessment: string
  at: string
  content: Buffer | string
}

/**
 * What lies in the submission box of the second course: work that came late, came twice, came anew after it was read, was
 * meant for something else, or is of a kind that cannot be read.
 */
export async function writeBox(db: Db, folder: string): Promise<string> {
  const readers = db.prepare<[string, string], { candidate: string }>(
    `SELECT s.candidate FROM allotment a JOIN student s ON s.id = a.student_id LEFT JOIN script x ON x.student_id = s.id AND x.assessment_id = a.assessment_id
     LEFT JOIN reading r ON r.script_id = x.id AND r.marker_id = a.marker_id
     WHERE a.assessment_id = '${COURSE}-sketch' AND a.marker_id = ? AND coalesce(r.state, 'none') = ? ORDER BY a.place LIMIT 4`,
  )
  const [first, second, third] = readers.all('marker-1', 'none').map((r) => r.candidate)
  const [read] = readers.all('marker-2', 'handed in').map((r) => r.candidate)
  const again = MAKERS_NOTE
  const all: Handed[] = [
    {
      file: 'sheet-a.pdf',
      candidate: first!,
      assessment: 'Sketch map',
      at: '2026-11-20T16:42:00Z',
      content: await sheet('The ford below the mill', again, 0),
    },
    { file: 'sheet-b.txt', candidate: second!, assessment: 'Sketch map', at: '2026-11-16T09:10:00Z', content: again.join('\n\n') },
    { file: 'sheet-b-again.txt', candidate: second!, assessment: 'Sketch map', at: '2026-11-16T09:12:00Z', content: again.join('\n\n') },
    {
      file: 'revised.pdf',
      candidate: read!,
      assessment: 'Sketch map',
      at: '2026-11-23T18:05:00Z',
      content: await sheet('The ridge, drawn anew', again.slice(1), 40),
    },
    {
      file: 'paper.pdf',
      candidate: third!,
      assessment: 'Written paper',
      at: '2026-11-18T10:00:00Z',
      content: await sheet('Four questions', again.slice(0, 1), 10),
    },
    {
      file: 'walk.txt',
      candidate: '6999',
      assessment: 'Valley walk',
      at: '2026-10-27T14:00:00Z',
      content: 'The valley from the north end, in twelve stations.',
    },
    {
      file: 'talk.docx',
      candidate: third!,
      assessment: 'Talk at the outcrop',
      at: '2026-11-22T20:15:00Z',
      content: Buffer.from([0x50, 0x4b, 3, 4, 0, 0, 8, 0]),
    },
  ]
  const own = join(folder, COURSE)
  rmSync(own, { recursive: true, force: true })
  mkdirSync(own, { recursive: true })
  for (const h of all) writeFileSync(join(own, h.file), h.content)
  const lines = all.map((h) => [h.file, h.candidate, h.assessment, h.at].join(','))
  writeFileSync(join(own, 'deliveries.csv'), ['file,candidate,assessment,came at', ...lines, ''].join('\r\n'))
  return own
}
