import fc from 'fast-check'
import type { Status } from '../grades/course'
import { runs } from '../testing/runs'
import { readCellText, writeCellText } from './cell-text'
import { headingOf, type MarksFile } from './marks-file'
import { readMarks } from './read-marks'
import { OWN_NAMES } from './roster-files'
import { writeRosterResults, type ResultToWrite } from './roster-results'
import { writeDelimited } from './write-delimited'
import { writeWorkbook } from './workbook'

const OUT_OF = 40
const COURSE = { id: 'c', code: 'CFS', title: 'Field', term: 'autumn', firstDay: '2026-09-07', lastDay: '2026-12-18' }

/** Words of any script, with signs that a spreadsheet would run, quotation marks and separators in them. */
const words = fc
  .string({ unit: 'grapheme', minLength: 1, maxLength: 14 })
  // A control character or half of a letter stands in no title; a file trims what is around it.
  .filter((s) => !/[\p{Cc}\p{Cs}\p{Co}\p{Cn}\uFFFD\uFEFF]/u.test(s) && s.trim() === s && s.normalize('NFC') === s)
const candidate = fc.oneof(fc.stringMatching(/^0{0,2}[1-9]\d{2,5}$/), fc.stringMatching(/^[A-Z]{1,2}\d{3,4}$/))
const cell = fc.oneof(
  fc.record({
    mark: fc.integer({ min: 0, max: OUT_OF * 1000 }).map((x): number | null => x / 1000),
    status: fc.constant<Status>('in'),
    daysLate: fc.constant(0),
  }),
  fc.record({
    mark: fc.option(fc.integer({ min: 0, max: OUT_OF * 2 }).map((x) => x / 2)),
    status: fc.constant<Status>('late'),
    daysLate: fc.integer({ min: 0, max: 99 }),
  }),
  fc.record({
    mark: fc.constant<number | null>(null),
    status: fc.constantFrom<Status>('missing', 'absent', 'exempt', 'held'),
    daysLate: fc.constant(0),
  }),
)
const sheet = fc
  .record({
    titles: fc.uniqueArray(words, { minLength: 1, maxLength: 4, selector: (t) => t.toLowerCase() }),
    candidates: fc.uniqueArray(candidate, { minLength: 1, maxLength: 4, selector: (c) => c.toLowerCase() }),
    names: fc.array(words, { minLength: 4, maxLength: 4 }),
  })
  .chain((of) => fc.record({ of: fc.constant(of), cells: fc.array(cell, { minLength: 16, maxLength: 16 }) }))
  .map(({ of: { titles, candidates, names }, cells }) => ({
    titles,
    rows: candidates.map((number, i) => ({ number, name: names[i]!, cells: titles.map((_, k) => cells[i * 4 + k]!) })),
  }))

type Sheet = typeof sheet extends fc.Arbitrary<infer T> ? T : never

const written = ({ titles, rows }: Sheet) =>
  new Map(rows.flatMap((r) => r.cells.map((c, k) => [`${r.number} ${titles[k]!.toLowerCase()}`, c] as const)))
/** What of a file is read, cell by cell, as it would stand in the sheet. */
const read = ({ marks, faults }: MarksFile) => {
  expect(faults).toEqual([])
  return new Map(
    marks.map((m) => {
      const typed = readCellText(m.text, OUT_OF)
      const now =
        typed.kind === 'mark'
          ? { mark: typed.mark, status: typed.status, daysLate: typed.daysLate }
          : typed.kind === 'late'
            ? { mark: null, status: 'late', daysLate: typed.daysLate }
            : { mark: null, status: typed.kind === 'status' ? typed.status : `wrong: ${m.text}`, daysLate: 0 }
      return [`${m.candidate} ${m.assessment.toLowerCase()}`, now] as const
    }),
  )
}
const table = ({ titles, rows }: Sheet): string[][] => [
  ['candidate', 'name', ...titles.map(headingOf)],
  ...rows.map((r) => [r.number, r.name, ...r.cells.map(writeCellText)]),
]
const sorted = (cells: ReadonlyMap<string, unknown>) => [...cells].sort(([a], [b]) => (a < b ? -1 : 1))

const FORMATS: Record<string, (of: Sheet) => Promise<Uint8Array>> = {
  CSV: async (of) => new TextEncoder().encode(writeDelimited(table(of))),
  XLSX: async (of) => {
    const [header, ...rows] = table(of)
    return writeWorkbook('Marks', header!, rows, ['text', 'text', ...of.titles.map(() => 'mark' as const)])
  },
  results: async ({ titles, rows }) =>
    writeRosterResults(
      {
        course: COURSE,
        day: '2026-11-28',
        components: [{ id: 'k', title: 'Work', weight: 100 }],
        assessments: titles.map((title, k) => ({ id: `a${k}`, title, outOf: OUT_OF, componentId: 'k' })),
        placements: [],
        names: OWN_NAMES,
      },
      rows.flatMap((r) =>
        r.cells.map((c, k): ResultToWrite => ({
          ...c,
          studentId: r.number,
          candidate: r.number,
          name: r.name,
          externalId: null,
          sectionId: 's',
          assessmentId: `a${k}`,
          remark: '',
        })),
      ),
    ),
}

test.each(Object.keys(FORMATS))(
  '%s: marks, statuses and days late come back as they went out, whatever titles and names are',
  async (format) => {
    await fc.assert(
      fc.asyncProperty(sheet, async (of) => {
        expect(sorted(read(await readMarks(await FORMATS[format]!(of))))).toEqual(sorted(written(of)))
      }),
      { numRuns: runs(80) },
    )
  },
)

const ONE_ESSAY = {
  course: COURSE,
  day: '2026-11-28',
  components: [{ id: 'k', title: 'Work', weight: 100 }],
  assessments: [{ id: 'a', title: 'Essay', outOf: OUT_OF, componentId: 'k' }],
  placements: [],
  names: OWN_NAMES,
}

test('results: of more than are written out together each stands once, in its order', async () => {
  const candidates = Array.from({ length: 12_001 }, (_, i) => String(100_000 + i))
  function* results(): Generator<ResultToWrite> {
    for (const candidate of candidates)
      yield {
        studentId: candidate,
        candidate,
        name: 'Ada',
        externalId: null,
        sectionId: 's',
        assessmentId: 'a',
        mark: 7,
        status: 'in',
        daysLate: 0,
        remark: '',
      }
  }
  const { marks, faults } = await readMarks(writeRosterResults(ONE_ESSAY, results()))
  expect(faults).toEqual([])
  expect(marks.map((m) => m.candidate)).toEqual(candidates)
})

test('results: what a student is to read beside a mark comes back, whatever it is written with', () =>
  fc.assert(
    fc.asyncProperty(fc.string({ unit: 'grapheme', maxLength: 60 }), async (words) => {
      const remark = words.trim()
      const one = { studentId: 'x', candidate: '4711', name: 'Ada', externalId: null, sectionId: 's', assessmentId: 'a', mark: 7, remark }
      const file = writeRosterResults(ONE_ESSAY, [{ ...one, status: 'in', daysLate: 0 }])
      expect((await readMarks(file)).marks.map((m) => m.remark ?? '')).toEqual([remark])
    }),
    { numRuns: runs(80) },
  ))
