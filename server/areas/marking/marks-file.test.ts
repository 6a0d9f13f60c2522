import { strToU8, zipSync } from 'fflate'
import type { MarksMatch } from '#core/exchange/marks-who'
import { type CellState, type Sheet, type BroughtIn, type TriedImport } from '#contract'
import { COURSE, api, demoServer } from '../../testing/serve'
import { writeSheets } from '#core/exchange/workbook'
import { sheetOf, sheetIn } from '../../testing/sheet-of'
import { takenOut } from '../../testing/taken-out'

const { server, lead } = demoServer()
let sheet: Sheet
let numbers: string[]
beforeAll(async () => {
  ;({ sheet, numbers } = await sheetOf(lead, 'Octant'))
}, 60_000)

const tryFile = async (text: string) => (await lead('post', api('/marks-file/try'), { text }).expect(200)).body as TriedImport
const refusal = async (text: string) => {
  const tried = await tryFile(text)
  return tried.rows.filter((r) => r.outcome === 'refused')
}

test('tried first, then all of it; the same file again changes nothing', async () => {
  const text = [
    'candidate,name,Stereo heights',
    ...numbers.map((n, i) => `${n},x,${i === 2 ? 'missing' : i === 3 ? '14.5 late 2' : 10 + (i % 10)}`),
  ].join('\r\n')
  const before = await tryFile(text)
  expect(before.counts).toEqual({ added: numbers.length, changed: 0, unchanged: 0, refused: 0 })
  expect(sheetIn((await lead('get', api('/sheet'))).body)).toEqual(sheet)
  const { changed } = (await lead('post', api('/marks-file'), { text }).expect(200)).body as BroughtIn
  expect(changed).toHaveLength(numbers.length)
  // What each cell was, so that it can be undone.
  expect(changed![3]).toMatchObject({ mark: 14.5, status: 'late', daysLate: 2, was: { mark: null, status: 'in', daysLate: 0 } })
  const cells = sheetIn((await lead('get', api('/sheet'))).body).cells.filter((c) => c.assessmentId === `${COURSE}-stereo`)
  const of = (i: number) => cells.find((c) => c.studentId === sheet.students.find((s) => s.candidate === numbers[i])!.id)
  expect(of(3)).toMatchObject({ mark: 14.5, status: 'late', daysLate: 2 })
  expect(of(2)).toMatchObject({ mark: null, status: 'missing' })
  expect((await tryFile(text)).counts).toEqual({ added: 0, changed: 0, unchanged: numbers.length, refused: 0 })
})

test('a decimal comma, a line that says the separator, and Windows-1252 are understood, and said', async () => {
  const [a, b] = numbers as [string, string]
  const text = `sep=;\r\ncandidate;Pacing and compass;Levelling run\r\n${a};3,5;\r\n${b};;4,25\r\n`
  const read = await tryFile(text)
  expect(read.counts).toMatchObject({ changed: 2, refused: 0 })
  expect(read.rows.map((r) => [r.line, r.after])).toEqual([
    [3, '3.5'],
    [4, '4.25'],
  ])
  expect(read.notes).toEqual(['A decimal comma is read as a point: 3,5 in line 3, and 1 more.'])
  const file = Buffer.from(`candidate;name;Pacing and compass\n${a};Zo\u00eb;4\n`, 'latin1').toString('base64')
  const old = (await lead('post', api('/marks-file/try'), { file }).expect(200)).body as TriedImport
  expect([old.counts.changed, old.notes]).toEqual([1, ['The file is not in UTF-8: it is read as western Europe (Windows-1252).']])
})

test('rows that are refused are left out where that was asked for, as many as were seen and no others', async () => {
  const [a, b] = numbers as [string, string]
  const text = `candidate,Plane table\n${a},1O\n${b},0.5\n`
  const was = (await tryFile(text)).counts
  expect([was.refused, was.changed + was.added]).toEqual([1, 1])
  await lead('post', api('/marks-file'), { text }).expect(422)
  await lead('post', api('/marks-file'), { text, leaveOut: 2 }).expect(422)
  const { changed } = (await lead('post', api('/marks-file'), { text, leaveOut: 1 }).expect(200)).body as BroughtIn
  expect(changed).toMatchObject([{ mark: 0.5, assessmentId: `${COURSE}-plane-table` }])
  expect((await tryFile(text)).counts).toMatchObject({ refused: 1, unchanged: 1 })
})

test('semicolons, tabs, a BOM and the long form are read too; an empty cell leaves the mark alone', async () => {
  const [a, b] = numbers as [string, string]
  expect((await tryFile(`\uFEFFcandidate;Pacing and compass;Levelling run\n${a};3.5;\n${b};;4\n`)).counts).toMatchObject({
    changed: 2,
    refused: 0,
  })
  expect((await tryFile(`candidate\tassessment\tmark\tstatus\tdays late\n${a}\tPacing and compass\t7\tlate\t3\n`)).rows[0]).toMatchObject({
    after: '7 late 3',
  })
})

test.each<[string, (a: string, b: string) => string, RegExp, { line: number; column: string | null }]>([
  [
    'over the maximum',
    (a) => `candidate,Pacing and compass\n${a},20.5`,
    /20\.5 is over the maximum of 20/,
    { line: 2, column: 'Pacing and compass' },
  ],
  [
    'letters in a number',
    (a, b) => `candidate,Pacing and compass\n${a},12\n${b},1O`,
    /“1O” is not a mark/,
    { line: 3, column: 'Pacing and compass' },
  ],
  [
    'a percent',
    (a) => `candidate,Pacing and compass\n${a},85%`,
    /is a percent: give the mark out of 20, which is 1\d/,
    { line: 2, column: 'Pacing and compass' },
  ],
  ['four decimals', (a) => `candidate,Pacing and compass\n${a},1.2345`, /more than 3 decimals/, { line: 2, column: 'Pacing and compass' }],
  ['below zero', (a) => `candidate,Pacing and compass\n${a},-1`, /below 0/, { line: 2, column: 'Pacing and compass' }],
  [
    'an unknown student',
    () => 'candidate,Pacing and compass\n99999,12',
    /No student has candidate number 99999/,
    { line: 2, column: 'Pacing and compass' },
  ],
  [
    'a student twice',
    (a) => `candidate,Pacing and compass\n${a},12\n${a},13`,
    /already has a mark for Pacing and compass in line 2/,
    { line: 3, column: 'Pacing and compass' },
  ],
  [
    'an unknown assessment, with what was meant',
    (a) => `candidate,Pacing and compas\n${a},12`,
    /is “Pacing and compass” meant\?/,
    { line: 2, column: 'Pacing and compas' },
  ],
  [
    'a wrong delimiter',
    (a) => `candidate|Pacing and compass\n${a}|12`,
    /separate them with commas, semicolons or tabs/,
    { line: 1, column: null },
  ],
  [
    'no column that says whose',
    () => 'who,Pacing and compass\nx,12',
    /No column says whose the marks are: .*The heading reads: who, Pacing/,
    { line: 1, column: null },
  ],
  [
    'two columns of one name',
    (a) => `candidate,Pacing and compass,Pacing and compass\n${a},1,2`,
    /Two columns are headed/,
    { line: 1, column: 'pacing and compass' },
  ],
  [
    'an open quotation mark',
    (a) => `candidate,Pacing and compass\n${a},"12`,
    /A quotation mark opens a cell, and none closes it/,
    { line: 2, column: null },
  ],
  ['more cells than headings', (a) => `candidate,Pacing and compass\n${a},12,13`, /3 cells, the heading has 2/, { line: 2, column: null }],
  ['a binary file', () => 'PK\u0003\u0004\u0000\u0000', /not a text file/, { line: 1, column: null }],
  ['a wrong encoding', () => 'candidate,Pacing and compass\n\uFFFD,1', /UTF-8/, { line: 2, column: 'candidate' }],
  ['an empty file', () => ' \n', /The file is empty/, { line: 1, column: null }],
  ['a heading alone', () => 'candidate,Pacing and compass\n', /no row beneath/, { line: 1, column: null }],
  [
    'an assessment marked by readings',
    (a) => `candidate,Map project\n${a},50`,
    /marked by readings: settle it at Reconcile/,
    { line: 2, column: 'Map project' },
  ],
  [
    'a cell of a hundred thousand letters',
    (a) => `candidate,Pacing and compass\n${a},${'x'.repeat(100_000)}`,
    /longer than 2000 characters/,
    { line: 2, column: null },
  ],
])('%s is refused with line, column and reason, and nothing is brought in', async (_, file, reason, place) => {
  const text = file(numbers[0]!, numbers[1]!)
  const refused = await refusal(text)
  expect(refused).toHaveLength(1)
  expect(refused[0]!.reason).toMatch(reason)
  expect(refused[0]).toMatchObject(place)
  const before = (await lead('get', api('/sheet'))).body
  const answer = await lead('post', api('/marks-file'), { text }).expect(422)
  expect((answer.body as { detail: string }).detail).toMatch(/nothing was brought in/)
  expect((await lead('get', api('/sheet'))).body).toEqual(before)
})

test('a huge file is refused with a sentence', async () => {
  const huge = await lead('post', api('/marks-file/try'), { text: 'x'.repeat(5_000_001) }).expect(422)
  expect((huge.body as { detail: string }).detail).toMatch(/over 5 MB/)
  const larger = await lead('post', api('/marks-file/try'), { text: 'x'.repeat(18_000_000) }).expect(413)
  expect((larger.body as { detail: string }).detail).toMatch(/over 17 MB/)
  const rows = await refusal(`candidate,Pacing and compass\n${'1,1\n'.repeat(60_000)}`)
  expect(rows[0]!.reason).toMatch(/more than 50000 rows/)
})

test('cells: good ones are saved, the others come back with the reason and what stands', async () => {
  const now = sheetIn((await lead('get', api('/sheet'))).body)
  const cell = (assessment: string, i = 0) =>
    now.cells.find((c) => c.assessmentId === `${COURSE}-${assessment}` && c.studentId === now.students[i]!.id)!
  const ids = (c: { studentId: string; assessmentId: string }) => ({ studentId: c.studentId, assessmentId: c.assessmentId })
  const fine = { ...ids(cell('pacing')), version: cell('pacing').version, mark: 11.5, status: 'in', daysLate: 0 }
  const over = { ...ids(cell('detail')), version: cell('detail').version, mark: 41, status: 'in', daysLate: 0 }
  const read = { ...ids(cell('map')), version: cell('map').version, mark: 50, status: 'in', daysLate: 0 }
  const { body } = await lead('patch', api('/sheet'), { cells: [fine, over, read] }).expect(200)
  expect(body).toMatchObject({ saved: [{ mark: 11.5, version: fine.version + 1 }], refused: [{ kind: 'range' }, { kind: 'readings' }] })
  const again = await lead('patch', api('/sheet'), { cells: [{ ...fine, mark: 12 }] }).expect(200)
  expect(again.body).toMatchObject({ saved: [], refused: [{ kind: 'stale', current: { mark: 11.5 } }] })
  // Sent again because the answer was lost: it is not applied twice.
  const retried = await lead('patch', api('/sheet'), { cells: [fine] }).expect(200)
  expect(retried.body).toMatchObject({ saved: [{ mark: 11.5, version: fine.version + 1 }], refused: [] })
  const unknown = await lead('patch', api('/sheet'), { cells: [{ ...fine, colour: 'red' }] }).expect(422)
  expect((unknown.body as { detail: string }).detail).toMatch(/Unknown field: colour/)
})

test('every earlier state of a mark is kept: who, when, what', async () => {
  const now = sheetIn((await lead('get', api('/sheet'))).body)
  const c = now.cells.find((x) => x.assessmentId === `${COURSE}-levelling` && x.mark !== null)!
  const write = (version: number, mark: number) =>
    lead('patch', api('/sheet'), {
      cells: [{ studentId: c.studentId, assessmentId: c.assessmentId, version, mark, status: 'in', daysLate: 0 }],
    }).expect(200)
  await write(c.version, 3)
  await write(c.version + 1, 4)
  const { body } = await lead('get', api(`/scripts/${c.assessmentId}:${c.studentId}`)).expect(200)
  expect((body as { history: { mark: number; by: string }[] }).history.map((h) => [h.mark, h.by])).toEqual([
    [4, 'Ines Valdry'],
    [3, 'Ines Valdry'],
    [c.mark, 'Ines Valdry'],
  ])
})

test('taken out as CSV, filled in elsewhere and brought back, it merges cell by cell', async () => {
  const csv = (await lead('get', api('/marks.csv')).expect(200)).text
  const untouched = (await lead('post', api('/marks-file/try'), { text: csv }).expect(200)).body as TriedImport
  expect(untouched.counts).toMatchObject({ added: 0, changed: 0, refused: 0 })
  const [head, ...rows] = csv.split('\r\n')
  const titles = head!.replace('\uFEFF', '').split(',')
  expect(titles.slice(0, 3)).toEqual(['candidate', 'name', 'section'])
  // Marks that come from readings are in it, and come back as what they are.
  const map = titles.indexOf('Map project')
  const sheet = sheetIn((await lead('get', api('/sheet'))).body)
  const agreed = sheet.cells.filter((c) => c.assessmentId === `${COURSE}-map` && c.fromReadings?.mark != null).length
  expect(agreed).toBeGreaterThan(50)
  expect(rows.filter((r) => (r.split(',')[map] ?? '') !== '').length).toBeGreaterThanOrEqual(agreed)
  const at = titles.indexOf('Levelling run')
  const cells = rows[0]!.split(',')
  cells[at] = cells[at] === '7.5' ? '8' : '7.5'
  const edited = [head, cells.join(','), ...rows.slice(1)].join('\r\n')
  expect(((await lead('post', api('/marks-file/try'), { text: edited }).expect(200)).body as TriedImport).counts).toMatchObject({
    changed: 1,
    refused: 0,
  })
  const book = await lead('get', api('/marks.xlsx')).expect(200)
  expect(book.headers['content-disposition']).toContain('marks CFS 214 autumn 2026.xlsx')
})

const bytesOf = async (path: string) => (await takenOut(lead, path)).body
const tryBytes = async (bytes: Uint8Array) =>
  (await lead('post', api('/marks-file/try'), { file: Buffer.from(bytes).toString('base64') }).expect(200)).body as TriedImport

test('a cell changed by somebody since the sheet was taken out stays, unless the file changed it too: then both values are said', async () => {
  const csv = (await lead('get', api('/marks.csv')).expect(200)).text
  const [head, ...rows] = csv.split('\r\n')
  const at = head!.replace('\uFEFF', '').split(',').indexOf('Levelling run')
  const now = sheetIn((await lead('get', api('/sheet'))).body)
  const taken = rows.slice(0, 3).map((r) => r.split(','))
  const write = (candidate: string, mark: number) => {
    const studentId = now.students.find((s) => s.candidate === candidate)!.id
    const cell = now.cells.find((c) => c.studentId === studentId && c.assessmentId === `${COURSE}-levelling`)!
    return lead('patch', api('/sheet'), {
      cells: [{ studentId, assessmentId: cell.assessmentId, version: cell.version, mark, status: 'in', daysLate: 0 }],
    }).expect(200)
  }
  await write(taken[0]![0]!, 1)
  await write(taken[1]![0]!, 2)
  const was = taken[1]![at]!
  taken[1]![at] = '3'
  taken[2]![at] = '5.5'
  const text = [head, ...taken.map((r) => r.join(','))].join('\r\n')
  const { counts, rows: tried } = await tryFile(text)
  expect(counts).toMatchObject({ added: 0, changed: 1, refused: 1 })
  expect(tried[0]).toMatchObject({
    outcome: 'refused',
    column: 'Levelling run',
    reason: `It was ${was} when the sheet was taken out, and Ines Valdry has put 2 there since: empty the cell to keep that.`,
  })
  taken[1]![at] = ''
  await lead('post', api('/marks-file'), { text: [head, ...taken.map((r) => r.join(','))].join('\r\n') }).expect(200)
  const after = sheetIn((await lead('get', api('/sheet'))).body)
  const marks = taken.map((r) => {
    const { id } = after.students.find((s) => s.candidate === r[0])!
    return after.cells.find((c) => c.studentId === id && c.assessmentId === `${COURSE}-levelling`)!.mark
  })
  expect(marks).toEqual([1, 2, 5.5])
})

test('a workbook and zipped results come back as they went out; other archives are refused in words', async () => {
  for (const path of ['/marks.xlsx', '/marks-results.zip']) {
    const { counts } = await tryBytes(await bytesOf(path))
    expect([path, counts.added, counts.changed, counts.refused]).toEqual([path, 0, 0, 0])
    expect(counts.unchanged).toBeGreaterThan(500)
  }
  const zip = zipSync({ 'results.csv': strToU8('lineItemSourcedId,studentSourcedId,scoreStatus,score\r\n') })
  const refused = await lead('post', api('/marks-file/try'), { file: Buffer.from(zip).toString('base64') }).expect(422)
  expect((refused.body as { detail: string }).detail).toMatch(/has no lineItems\.csv: it needs/)
})

test('results marked out of something else are refused; statuses and lateness are understood; ids from outside lead to the student', async () => {
  const { external_id: outside } = server.db.prepare('SELECT external_id FROM student WHERE candidate = ?').get(numbers[3]) as {
    external_id: string
  }
  const zip = zipSync({
    'lineItems.csv': strToU8('sourcedId,title,resultValueMax\r\n1,Pacing and compass,20\r\n2,Levelling run,100\r\n'),
    'results.csv': strToU8(
      [
        'lineItemSourcedId,studentSourcedId,scoreStatus,score,late,missing',
        `1,candidate-${numbers[0]},exempt,,false,false`,
        `1,candidate-${numbers[1]},fully graded,12.5,true,false`,
        `1,candidate-${numbers[2]},not submitted,,false,true`,
        `1,${outside},fully graded,1.5,false,false`,
        `2,candidate-${numbers[0]},fully graded,85,false,false`,
        `9,candidate-${numbers[0]},fully graded,85,false,false`,
      ].join('\r\n'),
    ),
  })
  const { rows } = await tryBytes(zip)
  const becomes = (candidate: string) => rows.find((r) => r.candidate === candidate && r.assessment === 'Pacing and compass')?.after
  expect(numbers.slice(0, 3).map(becomes)).toEqual(['exempt', '12.5 late 1', 'missing'])
  expect(rows.find((r) => r.candidate === outside)?.after).toBe('1.5')
  expect(rows.filter((r) => r.outcome === 'refused').map((r) => r.reason)).toEqual([
    'The file marks Levelling run out of 100, and here it is out of 30: bring both to the same first.',
    'No line in lineItems.csv has the id 9.',
  ])
})

test('a marker sees what their own cells were, and nothing of others’', async () => {
  const marker = await server.as('rune.daal')
  const states = async (studentId: string) =>
    (await marker('get', api(`/sheet/${studentId}/${COURSE}-levelling`)).expect(200)).body as CellState[]
  const own = sheet.students.find((s) => s.candidate === numbers[0])!
  const other = sheet.students.find((s) => s.sectionId !== own.sectionId)!
  expect((await states(own.id)).length).toBeGreaterThan(0)
  expect(await states(other.id)).toEqual([])
})

test('what is done or not done is typed and brought in by these words', async () => {
  const part = sheet.assessments.find((a) => a.marking === 'completion')!
  expect(part.labels!.map((l) => l.label)).toEqual(['not done', 'done'])
  const { rows } = await tryFile(`candidate,${part.title}\n${numbers[0]},done\n${numbers[1]},not done\n`)
  expect(new Map(rows.map((r) => [r.candidate, r.after]))).toEqual(
    new Map([
      [numbers[0], '1'],
      [numbers[1], '0'],
    ]),
  )
  // Already where it is tried, and not first when it is brought in.
  expect((await refusal(`candidate,${part.title}\n${numbers[0]},0.5\n`)).map((r) => r.reason)).toEqual(['It is done, 1, or not done, 0.'])
})

test('a file of another program: a title above the heading, whose by name, id or mail address, its own words for an assessment', async () => {
  const { students } = sheetIn((await lead('get', api('/sheet')).expect(200)).body)
  const count = new Map<string, number>()
  for (const s of students) count.set(s.name, (count.get(s.name) ?? 0) + 1)
  const one = students.find((s) => count.get(s.name) === 1)!
  const twins = students.find((s) => count.get(s.name) === 2)!
  server.db
    .prepare("UPDATE student SET external_id = 'REG-7', sign_in = 'a.student@vale.example', person_id = NULL WHERE id = ?")
    .run(one.id)
  const tried = async (text: string, match?: MarksMatch) =>
    (await lead('post', api('/marks-file/try'), { text, ...(match && { match }) }).expect(200)).body as TriedImport
  const marks = [{ column: 1, assessment: 'Pacing and compass' }]

  const text = `Marks of the autumn,,\nWho,Sheet 3,Total\n${one.name},12,40\n${twins.name},11,39\n`
  expect((await tried(text)).table).toMatchObject({ who: null })
  const byName = await tried(text, { headingLine: 2, who: { column: 0, by: 'name' }, marks })
  expect(byName.rows.map((r) => [r.candidate, r.outcome === 'refused' ? r.reason : r.after])).toEqual([
    [twins.name, expect.stringMatching(/^2 students are called .*: give the candidate number\.$/)],
    [one.name, '12'],
  ])
  for (const [head, who] of [
    ['external id', 'REG-7'],
    ['E-mail', 'A.Student@vale.example'],
  ] as const) {
    const { table, rows } = await tried(`Autumn,,\n${head},Name,Pacing and compass\n${who},Somebody,12\n`)
    expect(table).toMatchObject({ headingLine: 2, who: { column: 0 } })
    expect(rows.map((r) => [r.candidate, r.after])).toEqual([[who, '12']])
  }
  const marker = await server.as('rune.daal')
  const hidden = await marker('post', api('/marks-file/try'), { text: 'external id,Pacing and compass\nREG-7,12\n' }).expect(200)
  expect((hidden.body as TriedImport).rows[0]!.reason).toMatch(/^No student has the id REG-7/)
})

test('what was matched by hand is remembered once its file is brought in: the next with that heading is read the same way, and says so', async () => {
  const [a, b] = numbers as [string, string]
  const file = (who: string, mark: number) => `Pages of the week,,\nWho,Sheet 3,Total\n${who},${mark},40\n`
  const match: MarksMatch = {
    headingLine: 2,
    who: { column: 0, by: 'candidate' },
    marks: [{ column: 1, assessment: 'Pacing and compass' }],
  }
  await lead('post', api('/marks-file/try'), { text: file(a, 12.25), match }).expect(200)
  expect((await tryFile(file(a, 12.25))).table).toMatchObject({ who: null })
  await lead('post', api('/marks-file'), { text: file(a, 12.25), match }).expect(200)
  const next = await tryFile(file(b, 13.25))
  expect(next.table).toMatchObject(match)
  expect(next.rows.map((r) => [r.candidate, r.assessment, r.after])).toEqual([[b, 'Pacing and compass', '13.25']])
  expect(next.notes).toEqual([expect.stringMatching(/matched by hand the last time/)])
  // Matched otherwise it is read as that says, and another heading is not read so.
  const other = await lead('post', api('/marks-file/try'), {
    text: file(b, 9),
    match: { ...match, marks: [{ column: 2, assessment: 'Paper 1' }] },
  })
  expect((other.body as TriedImport).notes).toEqual([])
  expect((await tryFile(`Who,Sheet 4\n${b},9\n`)).table).toMatchObject({ who: null })
})

test('sheets of a workbook are tried together or as they are chosen; a percent and an error in a cell are refused as what they are', async () => {
  const header = ['candidate', 'Stereo heights']
  const [a, b, c] = numbers as [string, string, string]
  const book = await writeSheets([
    { title: 'Morning', header, rows: [[a, 75]], kinds: ['text', 'percent'] },
    { title: 'Notes', header: ['what'], rows: [['rain']] },
    { title: 'Afternoon', header, rows: [[b, '11'], [c, '#N/A']], kinds: ['text', 'mark'] }, // prettier-ignore
  ])
  const file = Buffer.from(book).toString('base64')
  const tried = (await lead('post', api('/marks-file/try'), { file }).expect(200)).body as TriedImport
  expect(tried.sheets.filter((s) => s.chosen).map((s) => s.name)).toEqual(['Morning', 'Afternoon'])
  expect(tried.rows.filter((r) => r.outcome === 'refused').map((r) => [r.line, r.reason])).toEqual([
    [2, '“75%” is a percent: give the mark out of 24, which is 18.'],
    [5, expect.stringMatching(/^“#N\/A” is not a mark/)],
  ])
  const chosen = (await lead('post', api('/marks-file/try'), { file, match: { sheets: ['Afternoon'] } }).expect(200)).body as TriedImport
  expect(chosen.rows.map((r) => r.line).sort()).toEqual([2, 3])
})
