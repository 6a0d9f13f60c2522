import { strToU8 } from 'fflate'
import { readMarks } from './read-marks'
import { readMarksFile } from './marks-file'
import { whoIn } from './marks-match'

test.each([
  ['the number before everything else', ['E-mail', 'Candidate number', 'Name'], { column: 1, by: 'candidate' }],
  ['an id from outside before a mail address', ['Name', 'mail', 'Student ID'], { column: 2, by: 'external id' }],
  ['a mail address before a name', ['Student', 'E-Mail address'], { column: 1, by: 'e-mail' }],
  ['a name where there is nothing else', ['Full name', 'Essay'], { column: 0, by: 'name' }],
  ['nobody', ['Kürzel', 'Essay'], null],
])('%s says whose', (_, header, who) => {
  expect(whoIn(header)).toEqual(who)
})

test('lines above the heading are passed over; columns that say who somebody is are no marks', () => {
  const { marks, faults, table } = readMarksFile('Autumn 2026,,,\n,,,\nname,student id,section,Essay\nAda Wren,REG-7,A,12\n')
  expect(faults).toEqual([])
  expect(marks).toEqual([{ line: 4, column: 'Essay', candidate: 'REG-7', by: 'external id', assessment: 'Essay', text: '12' }])
  expect(table).toEqual({
    header: ['name', 'student id', 'section', 'Essay'],
    headingLine: 3,
    who: { column: 1, by: 'external id' },
    marks: [{ column: 3, assessment: 'Essay' }],
  })
})

test('what was said is read, and nothing else: the heading, whose, and which columns are marks of what', () => {
  const text = 'a;b;c\nWer;Blatt 3;Summe\nAda Wren;12;40\nBo Alda;;39\n'
  const match = { headingLine: 2, who: { column: 0, by: 'name' as const }, marks: [{ column: 1, assessment: 'Essay' }] }
  expect(readMarksFile(text, match).marks).toEqual([
    { line: 3, column: 'Blatt 3', candidate: 'Ada Wren', by: 'name', assessment: 'Essay', text: '12' },
  ])
  const missing = readMarksFile('Wer;Essay\n;3\n', { who: { column: 0, by: 'name' } })
  expect(missing.faults).toMatchObject([{ line: 2, column: 'Wer', reason: 'The name is missing.' }])
})

test('bytes are matched like text; where nobody is named it is said, with what can be matched', async () => {
  const bytes = strToU8('Kürzel,Essay\nx,12\n')
  const asked = await readMarks(bytes)
  expect(asked.faults[0]!.reason).toMatch(/^No column says whose the marks are/)
  expect(asked.table).toMatchObject({ who: null, header: ['Kürzel', 'Essay'], marks: [{ column: 0 }, { column: 1 }] })
  const { marks } = await readMarks(bytes, { who: { column: 0, by: 'candidate' }, marks: [{ column: 1, assessment: 'Essay' }] })
  expect(marks).toMatchObject([{ candidate: 'x', assessment: 'Essay', text: '12' }])
})
