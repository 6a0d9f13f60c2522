import { strToU8, zipSync } from 'fflate'
import { openFile, type FormatName } from '.'

const packed = (...names: string[]) => zipSync(Object.fromEntries(names.map((n) => [n, strToU8('x')])))
const EVERY = {
  pdf: strToU8('%PDF-1.7'),
  'old workbook': new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 1]),
  competencies: strToU8('\uFEFF {"CFDocument": {}}'),
  'roster results': packed('manifest.csv', 'lineItems.csv', 'results.csv'),
  roster: packed('manifest.csv', 'users.csv', 'enrollments.csv'),
  'data package': packed('datapackage.json', 'data/marks.csv'),
  workbook: packed('xl/workbook.xml'),
  document: packed('word/document.xml'),
  archive: packed('notes.txt'),
  text: strToU8('candidate,mark\n3901,5\n'),
} satisfies Record<FormatName, Uint8Array>
const NAMES = Object.keys(EVERY) as FormatName[]

test.each(NAMES)('%s is told by its content, and refused where it is not read', (format) => {
  expect(openFile(EVERY[format], NAMES).format).toBe(format)
  expect(openFile(EVERY[format], [format]).format).toBe(format)
  const others = NAMES.filter((f) => f !== format)
  expect(() => openFile(EVERY[format], others)).toThrow(/^This is an? .*\. What is read here: .+, or .+\. .+\.$/)
})

test('a whole roster is what is wanted of it: its students, or its results', () => {
  const whole = packed('users.csv', 'enrollments.csv', 'lineItems.csv', 'results.csv')
  expect(openFile(whole, ['text', 'roster']).format).toBe('roster')
  expect(openFile(whole, ['text', 'roster results']).format).toBe('roster results')
})

test('what is brought to the wrong place is told where it belongs', () => {
  expect(() => openFile(EVERY.roster, ['text', 'workbook'])).toThrow(
    'This is a roster (users.csv or enrollments.csv, zipped). What is read here: a table as text (CSV) or a workbook (XLSX). Students and sections are brought in at Set out.',
  )
  expect(() => openFile(new Uint8Array(), ['text'])).toThrow('The file is empty.')
})
