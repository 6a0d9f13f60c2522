import fc from 'fast-check'
import { runs } from '../testing/runs'
import { strToU8, zipSync } from 'fflate'
import { rollChanges, type RollSection, type RollStudent } from '../roll/roll-changes'
import { FileError } from './delimited'
import { OWN_NAMES } from './roster-files'
import { writeOneRoster } from './write-one-roster'
import { readRoll } from './read-roll'
import { unzipBounded } from './unzip'
import { writeWorkbook } from './workbook'
import { writeRollCsv, writeRollTable, type WrittenRoll } from './write-roll'

const COURSE = { id: 'c', code: 'CFS 214', title: 'Field Mapping', term: 'autumn 2026', firstDay: '2026-09-07', lastDay: '2026-12-18' }
const PEOPLE = [
  { id: 'p1', name: 'Tadesse Abara' },
  { id: 'p2', name: 'Lea Ostrand' },
]
const SECTIONS: (RollSection & { teacher: string | null })[] = [
  { id: 's1', code: 'A', name: 'Alidade', teacherId: 'p1', teacher: 'Tadesse Abara', weekdays: [1, 3], firstDay: '2026-09-07' },
  { id: 's2', code: 'B', name: 'Bright & Early, "the first"', teacherId: null, teacher: null, weekdays: [], firstDay: null },
]
const student = (id: string, name: string, more: Partial<RollStudent> = {}): RollStudent => ({
  id,
  candidate: `39${id}`,
  name,
  externalId: null,
  signIn: null,
  stays: [{ sectionId: 's1', from: '2026-09-07', to: null }],
  ...more,
})
const ROLL = {
  sections: SECTIONS,
  people: PEOPLE,
  students: [
    student('01', 'Aylin Aldana', { externalId: 'ext-1', signIn: 'aylin@vale.example' }),
    student('02', 'Gael Castellane'),
    student('03', 'Gael Castellane', { externalId: 'ext-3', stays: [{ sectionId: 's2', from: '2026-09-07', to: '2026-10-02' }] }),
    student('04', 'Šárka, Nguyễn "Ánh"', {
      stays: [
        { sectionId: 's1', from: '2026-09-07', to: '2026-10-11' },
        { sectionId: 's2', from: '2026-10-12', to: null },
      ],
    }),
    student('05', 'Mononym'),
  ],
}
const written: WrittenRoll = ROLL
const FROM = '2026-10-01'
const bytes = (text: string) => new TextEncoder().encode(text)
const tryOut = async (file: Uint8Array, roll = ROLL) => rollChanges(roll, await readRoll(file), FROM)
const outcomes = (changes: Awaited<ReturnType<typeof tryOut>>) => changes.rows.map((r) => [r.line, r.outcome, r.reason])

describe('out and in again changes nothing', () => {
  test.each([
    ['CSV', async () => bytes(writeRollCsv(written))],
    ['XLSX', async () => writeWorkbook('Roll', writeRollTable(written).header, writeRollTable(written).rows)],
    ['roster', async () => writeOneRoster(COURSE, written, OWN_NAMES)],
  ])('%s', async (_, write) => {
    const changes = await tryOut(await write())
    expect(changes.rows.map((r) => r.outcome)).toEqual(ROLL.students.map(() => 'unchanged'))
    expect([changes.students, changes.sections, changes.missing, changes.notes]).toEqual([[], [], [], []])
  })

  test.each(['CSV', 'XLSX', 'roster'])('%s into an empty course makes the same roll', async (format) => {
    const { header, rows } = writeRollTable(written)
    const file =
      format === 'CSV'
        ? bytes(writeRollCsv(written))
        : format === 'XLSX'
          ? await writeWorkbook('Roll', header, rows)
          : writeOneRoster(COURSE, written, OWN_NAMES)
    const made = await tryOut(file, { sections: [], students: [], people: PEOPLE })
    expect(made.sections).toEqual(SECTIONS.map(({ teacher: _, ...s }) => ({ ...s, id: null })))
    const codes = new Map(SECTIONS.map((s) => [s.id, s.code.toLowerCase()]))
    const expected = ROLL.students.map((s) => ({
      candidate: s.candidate,
      name: s.name,
      stays: s.stays.map((stay) => ({ section: codes.get(stay.sectionId), from: stay.from, to: stay.to })),
    }))
    const order = (list: { candidate: string }[]) => [...list].sort((a, b) => (a.candidate < b.candidate ? -1 : 1))
    expect(order(made.students.map(({ candidate, name, stays }) => ({ candidate, name, stays })))).toEqual(order(expected))
  })

  test('names of every kind survive', async () => {
    const name = fc
      .array(
        fc
          .string({ unit: 'grapheme', minLength: 1, maxLength: 8 })
          .filter((s) => /^[\p{L}\p{M}'’.,"; -]+$/u.test(s) && s.trim() === s && s !== ''),
        { minLength: 1, maxLength: 3 },
      )
      .map((parts) => parts.join(' '))
    await fc.assert(
      fc.asyncProperty(fc.array(name, { minLength: 1, maxLength: 4 }), async (names) => {
        const students = names.map((n, i) => student(`1${i}`, n))
        const roll = { ...ROLL, students }
        for (const file of [bytes(writeRollCsv(roll)), writeOneRoster(COURSE, roll, OWN_NAMES)])
          expect((await tryOut(file, roll)).rows.map((r) => r.outcome)).toEqual(names.map(() => 'unchanged'))
      }),
      { numRuns: runs(60), examples: [[['A -']], [['Ann -Marr', 'O’Neil']], [['-Ann', "'-Ann", "'tis"]]] },
    )
  })
})

test('columns are known by many words, and can be matched by hand', async () => {
  const words = await readRoll(bytes('Exam number;Last name;First name;Class\n3901;Aldana;Aylin;A\n'))
  expect(words.entries).toEqual([
    {
      line: 2,
      candidate: '3901',
      name: 'Aylin Aldana',
      externalId: '',
      signIn: '',
      parts: { given: 'Aylin', middle: '', family: 'Aldana' },
      stays: [{ section: 'A', from: '', to: '' }],
    },
  ])
  const strange = bytes('Kürzel\tWer\tWo\n3901\tAylin Aldana\tAlidade\n')
  expect((await readRoll(strange)).faults[0]!.reason).toMatch(
    /No column was recognised as a candidate number or an external id, nor as a name, nor as a section/,
  )
  const matched = rollChanges(ROLL, await readRoll(strange, { columns: { candidate: 0, name: 1, section: 2 } }), FROM)
  expect(outcomes(matched)).toEqual([[2, 'unchanged', null]])
})

test('a sign-in or a mail address comes along by many words; what can be neither is refused', async () => {
  const read = await readRoll(bytes('number,name,section,E-Mail\n3901,Aylin,A,aylin@vale.example\n3902,Gael,A,\n3903,Bo,A,two words\n'))
  expect(read.entries.map((e) => e.signIn)).toEqual(['aylin@vale.example', ''])
  expect(read.faults.map((f) => [f.line, f.column])).toEqual([[4, 'E-Mail']])
  expect((await readRoll(bytes('number,name,section,username\n3901,Aylin,A,aylin.a\n'))).entries[0]!.signIn).toBe('aylin.a')
  // Without the column what is on the roll stays; with another one it is a change.
  const changes = async (file: string) => outcomes(rollChanges(ROLL, await readRoll(bytes(file)), FROM))
  expect(await changes('number,name,section\n3901,Aylin Aldana,A\n')).toEqual([[2, 'unchanged', null]])
  expect(await changes('number,name,section,email\n3901,Aylin Aldana,A,other@vale.example\n')).toEqual([[2, 'changed', 'sign-in']])
})

test('a heading below other lines is found; which line it is can be said, and what was matched before is known again', async () => {
  const above = 'Institute of Rivers\n"As of 7 September, all sections"\n\nNumber;Name;Section\n3901;Aylin Aldana;A\n'
  const found = await readRoll(bytes(above))
  expect([found.headingLine, found.entries.map((e) => [e.line, e.candidate])]).toEqual([4, [[5, '3901']]])
  // A file that has all it needs in its first row is read as before.
  expect((await readRoll(bytes('number,name,section\nnumber,name,section\n'))).headingLine).toBe(1)
  const strange = 'Liste\nKürzel;Wer;Wo\n3901;Aylin;A\n'
  const known = [{ header: ['Kürzel', 'Wer', 'Wo'], columns: { candidate: 0, name: 1, section: 2 } }]
  const again = await readRoll(bytes(strange), { known })
  expect([again.headingLine, again.faults, again.entries[0]!.name]).toEqual([2, [], 'Aylin'])
  const said = await readRoll(bytes(`${strange}Kürzel;Wer;Wo\n3902;Bo;A\n`), { headingLine: 4, known })
  expect(said.entries.map((e) => e.candidate)).toEqual(['3902'])
  // Nothing beneath it: as wherever a heading stands alone.
  await expect(readRoll(bytes(strange), { headingLine: 3 })).rejects.toThrow('There is a heading line but no row beneath it.')
})

test('added, changed, moved, back and missing are told apart', async () => {
  const changes = await tryOut(
    bytes(
      'candidate,name,section,id\n3901,Aylin Aldana-Reyes,A,ext-1\n3902,Gael Castellane,B,\n3903,Gael Castellane,B,ext-3\n3904,"Šárka, Nguyễn ""Ánh""",B,\n9000,Orla Quimby,New,\n,Tove Lindahl,A,ext-9\n',
    ),
  )
  expect(outcomes(changes)).toEqual([
    [2, 'changed', 'name'],
    [3, 'moved', 'from 1 Oct 2026'],
    [4, 'refused', 'Give a day from 3 Oct 2026 on: the student was somewhere else before.'],
    [5, 'unchanged', null],
    [6, 'added', null],
    [7, 'added', 'gets the number 9001'],
  ])
  expect(changes.sections).toEqual([{ id: null, code: 'New', name: 'New', teacherId: null, weekdays: [], firstDay: null }])
  expect(changes.missing).toEqual(['05'])
  const later = rollChanges(ROLL, await readRoll(bytes('candidate,name,section\n3903,Gael Castellane,B\n')), '2026-11-02')
  expect(outcomes(later)).toEqual([[2, 'back', null]])
})

test.each([
  ['candidate,name,section\n3901,,A\n', 'name', 'The name is missing.'],
  ['candidate,name,section\n3901,Aylin Aldana,\n', 'section', 'The section is missing.'],
  ['candidate,name,section\n,Aylin Aldana,A\n', 'candidate', 'The candidate number is missing.'],
  ['candidate,name,section\n3901,=HYPERLINK(1),A\n', 'name', 'looks like a formula'],
  ['candidate,name,section\n3901,Ay\u202elin,A\n', 'name', 'hidden characters'],
  ['candidate,name,section\n3901,Aylin,A,B\n', null, 'This row has 4 cells, the heading has 3'],
  [
    'candidate,name,section,from\n3901,Aylin,A,31/2/2026\n',
    'from',
    '“31/2/2026” is not a day: write it as 2026-09-07, 7.9.2026 or 7/9/2026.',
  ],
  ['candidate,name,section,meets\n3901,Aylin,A,often\n', 'meets', '“often” are no weekdays: write them as Mon Thu.'],
  ['candidate,name,section\n3901,Aylin,A\n3901,Aylin,B\n', 'candidate', '3901 stands in line 2 already'],
  [`candidate,name,section\n3901,${'x'.repeat(3000)},A\n`, null, 'longer than 2000 characters'],
])('a bad row is refused with its line and column: %#', async (text, column, reason) => {
  const { faults } = await readRoll(bytes(text))
  expect(faults).toHaveLength(1)
  expect(faults[0]).toMatchObject({ column, reason: expect.stringContaining(reason) as string })
})

test('a number and an id that belong to two students are refused', async () => {
  const changes = await tryOut(bytes('candidate,name,section,id\n3902,Aylin Aldana,A,ext-1\n'))
  expect(changes.rows[0]!.reason).toMatch(/The number 3902 is Gael Castellane’s, the external id is Aylin Aldana’s/)
})

/** A workbook whose one sheet holds some rows as they are. */
async function withSheet(rows: string): Promise<Uint8Array> {
  const files = unzipBounded(await writeWorkbook('Roll', ['a'], [['b']]))
  const [sheet] = [...files.keys()].filter((name) => /worksheets\/sheet\d+\.xml$/.test(name))
  return zipSync({
    ...Object.fromEntries(files),
    [sheet!]: strToU8(
      `<?xml version="1.0"?><worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>${rows}</sheetData></worksheet>`,
    ),
  })
}

test('a name with letters that no encoding has stays one row that can be read, as CSV and as a workbook', async () => {
  for (const name of ['Zo\uFFFD', 'Zo\uFFFF', 'Zo\uD800']) {
    const roll = { ...ROLL, students: [{ ...ROLL.students[0]!, name }] }
    const { header, rows } = writeRollTable(roll)
    for (const file of [bytes(writeRollCsv(roll)), await writeWorkbook('Roll', header, rows)]) {
      const { entries, faults } = await readRoll(file)
      expect(entries.length + faults.length).toBe(1)
    }
  }
})

describe('files that cannot be read are refused with a sentence', () => {
  const sentence = async (file: Uint8Array) => {
    const error = await readRoll(file).then(
      () => null,
      (e: unknown) => e,
    )
    expect(error).toBeInstanceOf(FileError)
    return (error as FileError).message
  }
  test('empty, PDF, old workbook, one column', async () => {
    expect(await sentence(new Uint8Array())).toBe('The file is empty.')
    expect(await sentence(bytes('%PDF-1.7'))).toMatch(/This is a PDF/)
    expect(await sentence(new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 1, 2]))).toMatch(/old or a locked workbook/)
    expect(await sentence(bytes('hello there'))).toMatch(/no columns that can be told apart/)
    expect(await sentence(bytes('candidate,name,section\n"3901,Aylin,A\n'))).toMatch(/A quotation mark opens a cell, and none closes it/)
    expect(await sentence(bytes('candidate,name,name\n1,2,3\n'))).toMatch(/Two columns are headed “name”/)
    expect(await sentence(bytes('candidate,name,section\n'))).toMatch(/no row beneath it/)
  })
  test('UTF-16 with its mark is read', async () => {
    const text = 'candidate,name,section\n3901,Zoë,A\n'
    const utf16 = new Uint8Array([0xff, 0xfe, ...[...text].flatMap((c) => [c.charCodeAt(0) & 255, c.charCodeAt(0) >> 8])])
    expect((await readRoll(utf16)).entries[0]!.name).toBe('Zoë')
  })
  test('a truncated workbook, a strange archive, a damaged one', async () => {
    const book = await writeWorkbook('Roll', ['candidate', 'name', 'section'], [['1', 'A', 'B']])
    expect(await sentence(book.slice(0, book.length - 300))).toMatch(/breaks off before its end/)
    expect(await sentence(zipSync({ 'a.txt': strToU8('x') }))).toMatch(
      /archive of other files\. What is read here: .* a workbook \(XLSX\), or a roster/,
    )
    const damaged = zipSync({ 'xl/workbook.xml': strToU8('<nothing'), 'xl/worksheets/sheet1.xml': strToU8('<') })
    expect(await sentence(damaged)).toMatch(/damaged|no rows/)
    expect(await sentence(zipSync({ 'users.csv': strToU8('sourcedId\n1'), 'enrollments.csv': strToU8('role\nstudent') }))).toMatch(
      /users.csv in the roster has no column givenName/,
    )
  })
  test('a bomb is stopped by what comes out of it', async () => {
    const bomb = zipSync({ 'xl/workbook.xml': strToU8('x'), 'xl/worksheets/sheet1.xml': new Uint8Array(130_000_000) })
    expect(bomb.length).toBeLessThan(200_000)
    expect(await sentence(bomb)).toMatch(/unpacks to more than 120 MB/)
  })
  test('a formula in a cell is named by its place', async () => {
    const row = (r: number, ...cells: string[]) => `<row r="${r}">${cells.map((c, i) => `<c r="${'ABC'[i]}${r}"${c}</c>`).join('')}</row>`
    const text = (t: string) => ` t="inlineStr"><is><t>${t}</t></is>`
    const rows = [row(1, ...['candidate', 'name', 'section'].map(text)), row(2, '><v>3901</v>', '><f>A1</f><v>7</v>', text('A'))]
    expect(await sentence(await withSheet(rows.join('')))).toMatch(/^Cell B2 holds a formula\. Paste/)
  })
  test('one cell far out is told by its place, and no room is made for what lies between', async () => {
    const far = (at: string) => withSheet(`<row r="1"><c r="A1"><v>1</v></c></row><row r="2"><c r="${at}"><v>1</v></c></row>`)
    expect(await sentence(await far('XFD2'))).toMatch(/^Cell XFD2 lies beyond the 500 columns/)
    expect(await sentence(await far('A1048576'))).toMatch(/more than 50000 rows/)
  })
  test('200,000 rows, as text and as a sheet', async () => {
    expect(await sentence(bytes(`candidate,name,section\n${'1,a,b\n'.repeat(200_000)}`))).toMatch(/more than 50000 rows/)
    const xml = `<worksheet><sheetData>${'<row r="1"></row>'.repeat(200_000)}</sheetData></worksheet>`
    expect(await sentence(zipSync({ 'xl/workbook.xml': strToU8('<workbook/>'), 'xl/worksheets/sheet1.xml': strToU8(xml) }))).toMatch(
      /more than 50000 rows/,
    )
  })
  test('whatever bytes come, the answer is a roll or a sentence', async () => {
    const seeds = [
      bytes(writeRollCsv(written)),
      writeOneRoster(COURSE, written, OWN_NAMES),
      await writeWorkbook('Roll', writeRollTable(written).header, writeRollTable(written).rows),
    ]
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...seeds),
        fc.array(fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.integer({ min: 0, max: 255 })), { maxLength: 12 }),
        fc.double({ min: 0.2, max: 1, noNaN: true }),
        async (seed, changes, keep) => {
          const file = seed.slice(0, Math.ceil(seed.length * keep))
          for (const [at, byte] of changes) file[Math.floor(at * (file.length - 1))] = byte
          try {
            rollChanges(ROLL, await readRoll(file), FROM)
          } catch (e) {
            expect(e).toBeInstanceOf(FileError)
          }
        },
      ),
      { numRuns: runs(300) },
    )
  }, 60_000)
})

test('days are read with the day first, or with the month first where a file can be read no other way', async () => {
  const from = async (...days: string[]) => {
    const rows = days.map((day, i) => `39${i},Student ${i},A,${day}\n`).join('')
    const read = await readRoll(bytes(`number,name,section,from\n${rows}`))
    return [...read.entries.map((e) => e.stays[0]!.from), ...read.faults.map((f) => f.reason)]
  }
  expect(await from('13/09/2026', '1/9/2026', '7.9.2026', '2026/09/07')).toEqual(['2026-09-13', '2026-09-01', '2026-09-07', '2026-09-07'])
  expect(await from('09/13/2026', '09/07/2026', '7.9.2026')).toEqual(['2026-09-13', '2026-09-07', '2026-09-07'])
  expect(await from('13/09/2026', '09/14/2026')).toEqual(['2026-09-13', expect.stringMatching(/^“09\/14\/2026” is not a day/)])
})

test('a match made by hand serves for a file with a column more and another order', async () => {
  const known = [{ header: ['Kürzel', 'Wer', 'Wo'], columns: { candidate: 0, name: 1, section: 2 } }]
  const read = await readRoll(bytes('Wo;Bemerkung;Kürzel;Wer\nA;neu;3901;Aylin\n'), { known })
  expect(read.entries.map((e) => [e.candidate, e.name, e.stays[0]!.section])).toEqual([['3901', 'Aylin', 'A']])
})

test.each(['Matric no.', 'Matriculation No', 'Kandidat', 'Matrikel-Nr.', 'Reg. No.'])('%s heads a column of numbers', async (heading) => {
  const read = await readRoll(bytes(`${heading};Name;Group\n3901;Aylin;A\n`))
  expect(read.entries[0]!.candidate).toBe('3901')
})

test('numbers and ids that begin like a formula come back from our own file', async () => {
  const student = { candidate: '+39', externalId: '+s-1', name: '=Ann' }
  const written = `candidate,name,section,external id\n'+39,'=Ann,'@A,'+s-1\n`
  const read = await readRoll(bytes(written))
  expect(read.faults).toEqual([])
  expect(read.entries[0]).toMatchObject({ ...student, stays: [{ section: '@A' }] })
})
