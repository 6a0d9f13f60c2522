import { parse } from 'csv-parse/sync'
import fc from 'fast-check'
import type { IssueContent, IssuedResult } from '../issues/issue'
import { runs } from '../testing/runs'
import { withoutGuard } from './guard'
import { RECORDS_HEADER, recordsFile } from './records-file'

const result = (more: Partial<IssuedResult>): IssuedResult => ({
  studentId: 'ada',
  candidate: '0412',
  name: 'Ada Wren',
  section: 'East, upper',
  final: 71.43,
  rounded: 71.4,
  grade: 'Merit',
  pending: 0,
  components: [],
  ...more,
})
const CONTENT: IssueContent = {
  course: { code: 'CFS 214', title: 'Field Mapping', term: 'autumn 2026' },
  number: 2,
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'cap' },
  boundaries: [],
  components: [],
  results: [result({}), result({ studentId: 'bo', candidate: '0413', rounded: null, grade: null, pending: 2 })],
}

test('a row a student says who by number, of what, what it came to and by whose hand; nobody is named but who signed', () => {
  const text = recordsFile(CONTENT, {
    at: '2026-12-20T10:00:00.000Z',
    hash: 'abc',
    signatures: [
      { by: 'Ines Valdry', role: 'lead', at: '2026-12-20T10:00:00.000Z' },
      { by: 'Orla Finch', role: 'external', at: '2026-12-21T09:00:00.000Z' },
    ],
    numberOf: new Map([['ada', 'N-1']]),
  })
  expect(text).not.toContain('Ada')
  const [header, ada, bo] = parse(text, { bom: true }) as string[][]
  expect(header).toEqual(RECORDS_HEADER)
  const signed = 'Ines Valdry (lead) 2026-12-20; Orla Finch (external) 2026-12-21'
  expect(ada).toEqual(['0412', 'N-1', 'CFS 214', 'autumn 2026', 'East, upper', '71.4', 'Merit', 'final', '2', '2026-12-20', signed, 'abc'])
  expect(bo!.slice(1, 8)).toEqual(['', 'CFS 214', 'autumn 2026', 'East, upper', '', '', 'pending 2'])
})

test('whatever numbers, sections and courses are called, they are read as they were written', () => {
  const words = fc.string({ unit: 'grapheme', maxLength: 30 })
  fc.assert(
    fc.property(fc.array(fc.tuple(words, words, words), { maxLength: 8 }), words, (students, code) => {
      const content = {
        ...CONTENT,
        course: { ...CONTENT.course, code },
        results: students.map(([candidate, section], i) => result({ studentId: String(i), candidate, section })),
      }
      const numberOf = new Map(students.map(([, , number], i) => [String(i), number]))
      const text = recordsFile(content, { at: '2026-12-20T10:00:00.000Z', hash: 'abc', signatures: [], numberOf })
      const [, ...rows] = parse(text, { bom: true }) as string[][]
      expect(rows.map((r) => r.slice(0, 5).map(withoutGuard))).toEqual(
        students.map(([candidate, section, number]) => [candidate, number, code, 'autumn 2026', section]),
      )
    }),
    { numRuns: runs(100) },
  )
})
