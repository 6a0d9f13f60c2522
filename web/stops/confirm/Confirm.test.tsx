import { screen, within } from '@testing-library/react'
import type { Change } from '#core/trial'
import { routes, type AskedReading, type CourseTable } from '#contract'
import { courseHead } from '../../testing/data'
import { inPage, serverAnswers } from '../../testing/in-page'
import { smallCourse, smallTable } from '../../testing/small-course'
import Confirm from './Confirm'

let table: CourseTable
let changes: Change[] = []
jest.mock('../../course/course', () => ({ useCourse: () => smallCourse(table, changes), useDecidedCourse: () => smallCourse(table) }))
let asked: AskedReading[] = []
const reading = (studentId: string, state: AskedReading['state']): AskedReading => ({
  assessmentId: 'essay',
  studentId,
  markerId: 'ny',
  because: 'near a line',
  askedAt: '2026-12-01T10:00:00.000Z',
  state,
})
beforeEach(() => {
  changes = []
  asked = []
})

type Scripts = Parameters<typeof smallTable>[0]
const SCRIPTS: Scripts = ['ada', 'bo', 'cy', 'di'].flatMap((s): Scripts => [
  [s, 'paper', 30],
  [s, 'essay', 15],
])
const course = (scripts = SCRIPTS, more: Partial<CourseTable> = {}) => smallTable(scripts, [], { head: courseHead('lead'), ...more })
const ISSUE = {
  number: 1,
  hash: 'a1b2c3d4e5f6a7b8c9d0',
  at: '2026-12-20T10:00:00.000Z',
  reopened: null,
  boundaries: [],
  counts: [],
  ungraded: 0,
  objections: [],
  waitsFor: ['external'],
  counted: false,
  inForce: false,
  signatures: [
    {
      by: 'Ines Valdry',
      role: 'lead',
      at: '2026-12-20T10:00:00.000Z',
      statement: 'I sign that the marks are agreed',
      hash: 'a1b2c3d4e5f6a7b8c9d0',
    },
  ],
}
const show = (issues: unknown[] = []) => {
  serverAnswers([
    [routes.issues, () => issues],
    [routes.furtherReadings, () => asked],
    [routes.signing, () => ({ signers: ['lead', 'external'] })],
  ])
  return inPage(<Confirm />)
}

test('what is still open says how many, of which assessment, and leads there; what must be cleared first keeps it from being signed', () => {
  table = course([...SCRIPTS.slice(0, 7), ['di', 'essay', null]])
  show()
  const row = screen.getByRole('row', { name: /1 mark of essay not in yet/ })
  expect(within(row).getByRole('link').getAttribute('href')).toBe('/courses/c/mark')
  expect(screen.getByRole('heading', { name: '1 student without a final grade' })).toBeTruthy()
  expect(screen.getByText('3 of 4 have a final grade')).toBeTruthy()
})

test('what was settled and is open again is named, and readings that were asked for and are not in', async () => {
  const essay: [string, string, string, number][] = [
    ['ada', 'essay', 'mo', 10],
    ['ada', 'essay', 'ny', 18],
  ]
  table = smallTable(SCRIPTS, essay, { head: courseHead('lead'), reopened: ['essay:ada'] })
  asked = [reading('ada', 'waiting'), reading('bo', 'begun'), reading('cy', 'handed in')]
  show()
  expect(await screen.findByRole('row', { name: /^2 readings asked for, not in yet/ })).toBeTruthy()
  expect(screen.getByText(/1 of them opened again after they were settled/)).toBeTruthy()
})

test('an open trial is said not to be part of what is signed', () => {
  table = course()
  changes = [
    {
      kind: 'bound',
      boundaries: [
        { grade: 'Pass', from: 50 },
        { grade: 'Refer', from: 0 },
      ],
    },
  ]
  show()
  expect(screen.getByRole('row', { name: /A trial of 1 change is open/ })).toBeTruthy()
})

test('confirmed, its hash and who signed stand there; made nameless, that the hash is of what was signed', async () => {
  table = course(undefined, { head: courseHead('lead', { confirmedIssue: 1, namelessAt: '2027-12-21T10:00:00.000Z' }) })
  show([ISSUE])
  expect(await screen.findByText('a1b2c3d4e5f6a7b8…')).toBeTruthy()
  expect(screen.getByText(/Names left it on 21 December 2027/)).toBeTruthy()
  expect(screen.getByText(/I sign that the marks are agreed/)).toBeTruthy()
})
