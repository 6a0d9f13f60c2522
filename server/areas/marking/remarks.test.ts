import { strToU8, unzipSync, zipSync } from 'fflate'
import { type BroughtIn, type CellState, type Sheet, type TriedImport } from '#contract'
import { api, COURSE, demoServer } from '../../testing/serve'
import { sheetOf, sheetIn } from '../../testing/sheet-of'
import { takenOut } from '../../testing/taken-out'
import { inFile } from './marks-table'

const { lead, server } = demoServer()
let sheet: Sheet
let numbers: string[]
beforeAll(async () => {
  ;({ sheet, numbers } = await sheetOf(lead, 'Octant'))
})

const tryFile = async (text: string) => (await lead('post', api('/marks-file/try'), { text }).expect(200)).body as TriedImport

test('a comment of a result is a remark for the student: tried, kept with every earlier one, taken out again, and taken back', async () => {
  const candidate = numbers[5]!
  const studentId = sheet.students.find((s) => s.candidate === candidate)!.id
  const assessmentId = `${COURSE}-pacing`
  const remark = 'Close the loop\nbefore you leave, “always”.'
  const results = (comment: string) =>
    Buffer.from(
      zipSync({
        'lineItems.csv': strToU8('sourcedId,title\nl1,Pacing and compass\n'),
        'results.csv': strToU8(
          `lineItemSourcedId,studentSourcedId,scoreStatus,score,comment\nl1,${candidate},fully graded,11.5,"${comment}"\n`,
        ),
      }),
    ).toString('base64')
  const tried = (await lead('post', api('/marks-file/try'), { file: results(remark) }).expect(200)).body as TriedImport
  expect(tried.rows.map((r) => r.reason)).toEqual([expect.stringMatching(/^(added|changed), with a remark$/)])
  const { changed } = (await lead('post', api('/marks-file'), { file: results(remark) }).expect(200)).body as BroughtIn
  expect(changed).toMatchObject([{ studentId, remark, was: { remark: '' } }])
  const again = (await lead('post', api('/marks-file/try'), { file: results(remark) }).expect(200)).body as TriedImport
  expect(again.counts).toMatchObject({ unchanged: 1, changed: 0 })

  const states = async () => (await lead('get', api(`/sheet/${studentId}/${assessmentId}`)).expect(200)).body as CellState[]
  expect((await states())[0]).toMatchObject({ mark: 11.5, remark })
  const { body } = await takenOut(lead, api('/marks-results.zip'))
  const out = new TextDecoder().decode(unzipSync(new Uint8Array(body))['results.csv'])
  expect(out).toContain('"Close the loop\nbefore you leave, “always”."')

  const version = (await states()).length
  const put = (cell: object) =>
    lead('patch', api('/sheet'), { cells: [{ studentId, assessmentId, mark: 11.5, status: 'in', daysLate: 0, ...cell }] })
  // A mark typed anew leaves the remark as it is.
  const now = sheetIn((await lead('get', api('/sheet'))).body).cells.find(
    (c) => c.studentId === studentId && c.assessmentId === assessmentId,
  )!
  await put({ version: now.version, mark: 12 }).expect(200)
  await put({ version: now.version + 1, mark: 12, remark: '' }).expect(200)
  expect((await states()).slice(0, -version).map((s) => [s.mark, s.remark])).toEqual([
    [12, ''],
    [12, null],
  ])
})

test('where others read, no remark is written beside a mark that is not typed; one that stood there can be taken away', async () => {
  const read = sheet.cells.find((c) => (c.fromReadings?.readings ?? 0) > 0)!
  const { studentId, assessmentId, version } = read
  const cell = { studentId, assessmentId, version, mark: read.mark, status: read.status, daysLate: read.daysLate }
  const put = async (remark: string) => {
    const { body } = await lead('patch', api('/sheet'), { cells: [{ ...cell, remark }] }).expect(200)
    const { saved, refused } = body as { saved: unknown[]; refused: { kind: string }[] }
    return [saved.length, refused.map((r) => r.kind)]
  }
  expect(await put('Seen')).toEqual([0, ['readings']])
  // It stood there before the script was shared out.
  server.db.prepare("UPDATE script SET remark = 'Well closed.' WHERE student_id = ? AND assessment_id = ?").run(studentId, assessmentId)
  expect(await put('Well closed, mostly.')).toEqual([0, ['readings']])
  expect(await put('')).toEqual([1, []])
})

test('a remark beside no mark, or beside one that readings make, is left, and that is said', async () => {
  const read = sheet.cells.find((c) => c.fromReadings && c.fromReadings.mark !== null && c.status === 'in')!
  const { title } = sheet.assessments.find((a) => a.id === read.assessmentId)!
  const { candidate } = sheet.students.find((s) => s.id === read.studentId)!
  const lines = [`${candidate},${title},${inFile(read.fromReadings!.mark)},Seen`, `${numbers[0]},Levelling run,,Come and see me`]
  const { counts, notes } = await tryFile(['candidate,assessment,mark,remark', ...lines].join('\n'))
  expect(counts).toEqual({ added: 0, changed: 0, unchanged: 1, refused: 0 })
  expect(notes).toEqual([
    'One remark stands beside no mark, and is left.',
    'One remark stands beside a mark that readings make, and is left: there remarks stand with readings.',
  ])
})
