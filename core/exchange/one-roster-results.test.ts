import { parse } from 'csv-parse/sync'
import { strFromU8, unzipSync } from 'fflate'
import type { IssueContent, IssuedResult } from '../issues/issue'
import { oneRosterResults } from './one-roster-results'
import { readRosterResults } from './roster-results'

const result = (studentId: string, more: Partial<IssuedResult>): IssuedResult => ({
  studentId,
  candidate: studentId,
  name: studentId,
  section: 'East',
  final: 61.4,
  rounded: 61,
  grade: 'Merit',
  pending: 0,
  components: [],
  marks: [],
  ...more,
})
const CONTENT: IssueContent = {
  course: { code: 'CFS 214', title: 'Field Mapping', term: 'autumn' },
  number: 2,
  policy: {
    missing: { kind: 'zero' },
    absent: { kind: 'pending' },
    late: { kind: 'perDay', percent: 5, maxDays: null },
    rounding: null,
    above100: 'cap',
  },
  boundaries: [
    { grade: 'Pass', from: 40 },
    { grade: 'Merit: good, or better', from: 60 },
  ],
  components: [
    { title: 'Exam', weight: 60 },
    { title: 'Extra', weight: null },
  ],
  assessments: [
    { title: 'Paper', component: 'Exam', outOf: 80, worth: 80, counts: true, bonus: false },
    { title: 'Quiz', component: 'Extra', outOf: 10, worth: 10, counts: true, bonus: true },
  ],
  results: [
    result('ada', { marks: [24.123456, { mark: 7, status: 'late', daysLate: 2 }] }),
    result('bo', {
      marks: [
        { mark: null, status: 'missing', daysLate: 0 },
        { mark: null, status: 'exempt', daysLate: 0 },
      ],
      section: 'West',
    }),
    result('cy', { marks: [{ mark: 5, status: 'held', daysLate: 0 }, null], rounded: null, grade: null, pending: 1 }),
    result('-eve', { name: '=Eve', marks: [{ mark: 30, plain: 24.5, status: 'in', daysLate: 0 }, null] }),
    result('di', {
      marks: [
        { mark: null, status: 'in', daysLate: 0 },
        { mark: null, status: 'absent', daysLate: 0 },
      ],
    }),
  ],
}
const files = unzipSync(
  oneRosterResults(CONTENT, {
    courseId: 'c',
    at: '2026-12-20T10:00:00.000Z',
    firstDay: '2026-09-01',
    lastDay: '2026-12-18',
    sectionIdOf: (name) => `class-${name}`,
    numberOf: new Map([['ada', 'N-1']]),
    due: (title) => (title === 'Paper' ? '2026-12-09' : '2026-08-30'),
  }),
)
const rows = (name: string) => parse(strFromU8(files[`${name}.csv`]!), { columns: true }) as Record<string, string>[]
const of = (student: string, part: string) =>
  rows('results').find((r) => r.sourcedId === `c-${part}-class-${student === 'bo' ? 'West' : 'East'}-${student}`)

test('components are categories with their weights, and the course result has one of its own', () => {
  expect(rows('categories').map((c) => [c.sourcedId, c.title, c.weight])).toEqual([
    ['c-category-0', 'Exam', '60'],
    ['c-category-1', 'Extra', ''],
    ['c-category-course', 'Course result', ''],
  ])
})

test('a line item stands once for each section, in its category, from when until when, out of what', () => {
  const items = rows('lineItems')
  expect(items.map((i) => i.sourcedId).sort()).toEqual([
    'c-0-class-East',
    'c-0-class-West',
    'c-1-class-East',
    'c-1-class-West',
    'c-course-class-East',
    'c-course-class-West',
  ])
  expect(items.find((i) => i.sourcedId === 'c-0-class-East')).toMatchObject({
    title: 'Paper',
    categorySourcedId: 'c-category-0',
    classSourcedId: 'class-East',
    assignDate: '2026-09-01',
    dueDate: '2026-12-09',
    resultValueMin: '0',
    resultValueMax: '80',
  })
  // Due before the term begins, it was not assigned after that.
  expect(items.find((i) => i.sourcedId === 'c-1-class-East')).toMatchObject({ assignDate: '2026-08-30', dueDate: '2026-08-30' })
  expect(items.find((i) => i.sourcedId === 'c-course-class-East')).toMatchObject({ resultValueMax: '100', dueDate: '2026-12-18' })
})

test('marks are told as they stand: late, missing, exempt, held and absent each by its word', () => {
  expect(of('ada', '0')).toMatchObject({
    score: '24.123',
    scoreStatus: 'fully graded',
    studentSourcedId: 'N-1',
    scoreDate: '2026-12-20',
    late: 'false',
  })
  expect(of('ada', '1')).toMatchObject({
    // What counts, and what lateness took of what was marked.
    score: '6',
    'metadata.scoreAsMarked': '7',
    'metadata.takenForLateness': '-1',
    late: 'true',
    'metadata.daysLate': '2',
    'metadata.status': 'late',
  })
  expect(of('bo', '0')).toMatchObject({ score: '0', scoreStatus: 'not submitted', missing: 'true', studentSourcedId: 'bo' })
  expect(of('bo', '1')).toMatchObject({ score: '', scoreStatus: 'exempt', missing: 'false' })
  expect(of('cy', '0')).toMatchObject({ scoreStatus: 'submitted', 'metadata.status': 'held' })
  expect(of('di', '1')).toMatchObject({ scoreStatus: 'not submitted', missing: 'false', 'metadata.status': 'absent' })
})

test('what was not set for somebody, or is still out, has no row; a result without a grade is told as partial', () => {
  expect(of('cy', '1')).toBeUndefined()
  expect(of('di', '0')).toBeUndefined()
  expect(of('ada', 'course')).toMatchObject({ score: '61', textScore: 'Merit', scoreStatus: 'fully graded', incomplete: 'false' })
  expect(of('cy', 'course')).toMatchObject({ score: '', textScore: '', scoreStatus: 'partially graded', incomplete: 'true' })
})

test('grades are on a scale of the class that says where each begins', () => {
  const scales = rows('scoreScales')
  expect(scales.map((s) => [s.classSourcedId, s.scoreScaleValue])).toEqual([
    ['class-East', '{Merit good or better:60},{Pass:40}'],
    ['class-West', '{Merit good or better:60},{Pass:40}'],
  ])
  const items = rows('lineItemScoreScales').map((l) => [l.lineItemSourcedId, l.scoreScaleSourcedId])
  expect(items).toEqual(scales.map((s) => [`c-course-${s.classSourcedId}`, s.sourcedId]))
  expect(rows('manifest').find((m) => m.propertyName === 'file.scoreScales')!.value).toBe('bulk')
})

test('what is asked for is there, and every reference leads somewhere', () => {
  const [org] = rows('orgs')
  const [term] = rows('academicSessions')
  expect(term).toMatchObject({ title: 'autumn', startDate: '2026-09-01', endDate: '2026-12-19' })
  for (const i of rows('lineItems')) {
    expect(i).toMatchObject({ gradingPeriodSourcedId: term!.sourcedId, schoolSourcedId: org!.sourcedId })
    expect([i.assignDate, i.dueDate, i.categorySourcedId].every(Boolean)).toBe(true)
  }
  expect(rows('results').every((r) => r.scoreDate === '2026-12-20')).toBe(true)
})

test('a rescaled mark counts, and stands beside what was marked; nothing is put before a sign that a spreadsheet would run', () => {
  expect(of('-eve', '0')).toMatchObject({ score: '30', 'metadata.scoreAsMarked': '24.5', studentSourcedId: '-eve' })
  expect(of('ada', '0')!['metadata.scoreAsMarked']).toBe('')
})

test('read back here, what lateness took is put back: the course’s own rule takes it', () => {
  const { marks } = readRosterResults(new Map(Object.entries(files)))
  expect(marks.filter((m) => m.assessment === 'Quiz').map((m) => m.text)).toContain('7 late 2')
})
