import { screen, waitFor, within } from '@testing-library/react'
import { unpackJudged, packJudged, routes, type JudgedReadings, type TablePlan } from '#contract'
import { workingsOf } from '#core/trial'
import { Outcome, type CourseState } from '../../course/state'
import { USE } from '../../testing/data'
import { inPage, serverAnswers } from '../../testing/in-page'
import { smallCourse, smallFigures, smallState, smallTable } from '../../testing/small-course'
import Compare from './Compare'
import { compareCriteria, givenBy, leansByCriterion } from './criteria/figures'
import { compareYears } from './years/figures'

const base = smallTable(
  [
    ['ada', 'essay', null],
    ['bo', 'essay', null],
    ['cy', 'essay', null],
    ['di', 'essay', null],
    ['ada', 'paper', 30],
    ['bo', 'paper', 20],
    ['cy', 'paper', 25],
    ['di', 'paper', 15],
  ],
  [
    ['ada', 'essay', 'mo', 12],
    ['ada', 'essay', 'ny', 16],
    ['bo', 'essay', 'mo', 6],
    ['bo', 'essay', 'ny', 9],
    ['cy', 'essay', 'mo', 10],
    ['cy', 'essay', 'ny', 15],
    ['di', 'essay', 'mo', 8],
    ['di', 'essay', 'ny', 12],
  ],
)
const table = {
  ...base,
  assessments: base.assessments.map((a) => (a.id === 'essay' ? { ...a, marking: 'rubric' as const, standardId: 'r' } : a)),
}
const level = (points: number, words: string) => ({ points, to: null, words })
const judged: JudgedReadings = unpackJudged(
  packJudged({
    assessmentId: 'essay',
    criteria: [
      {
        id: 'line',
        title: 'Line and shade',
        max: 10,
        penalty: false,
        levels: [level(0, 'none'), level(4, 'some'), level(8, 'all'), level(10, 'more')],
      },
      { id: 'words', title: 'Words', max: 10, penalty: false, levels: [] },
    ],
    students: ['ada', 'bo', 'cy', 'di'],
    markers: ['mo', 'ny'],
    student: [0, 0, 1, 1, 2, 2, 3, 3],
    marker: [0, 1, 0, 1, 0, 1, 0, 1],
    mark: [12, 16, 6, 9, 10, 15, 8, 12],
    points: [
      [8, 8, 4, 4, 4, 8, 4, 8],
      [4, 8, 2, 5, 6, 7, 4, 4],
    ],
    agreed: { student: [], points: [] },
  }),
)
const lastYear = (): CourseState => {
  const then = smallTable([
    ['ada', 'paper', 20],
    ['bo', 'paper', 24],
  ])
  const earlier = {
    ...then,
    head: { ...then.head, id: 'c-then', term: 'autumn before' },
    assessments: then.assessments.map((a) => (a.id === 'essay' ? { ...a, title: 'Composition' } : a)),
  }
  const workings = workingsOf(earlier)
  const outcome = Outcome.of(workings)
  return { table: earlier as TablePlan, workings, tried: workings, changes: [], adopted: outcome, current: outcome }
}

jest.mock('../../course/course', () => ({
  useFigures: (name: 'markers', ...args: [string | null]) => smallFigures(table)(name, ...args),
  useJudgedFigures: (name: 'criteria' | 'leans' | 'givenBy', of: string | null, only: null, criterion: string) =>
    of === null
      ? undefined
      : name === 'givenBy'
        ? givenBy(smallState(table), judged, String(only), criterion)
        : name === 'leans'
          ? leansByCriterion(smallState(table), judged)
          : compareCriteria(smallState(table), judged, only),
  useYears: (_: unknown, of: string | null, asMarked: boolean) => compareYears(smallState(table), [lastYear()], of, asMarked),
  useCourse: () => smallCourse(table),
  useDecidedCourse: () => ({ ...smallCourse(table), mayDecide: true }),
}))
jest.mock('../../session/ahead', () => ({ useCourses: () => ({ data: [] }) }))
// The charts are looked at in a real browser.

const exemplars = {
  assessment: { id: 'essay', title: 'essay', outOf: 20, marking: 'rubric', tolerance: 2, use: USE },
  standard: null,
  exemplars: [],
  mine: 'open',
  markers: [],
}
const asked: unknown[] = []
const wrote: unknown[] = []
beforeEach(() => {
  asked.length = wrote.length = 0
  serverAnswers([
    [routes.notes, () => []],
    [routes.exemplars, () => exemplars],
    [
      routes.askForReadings,
      (body) => {
        asked.push(body)
        return { asked: [], nobodyFor: [] }
      },
    ],
    [routes.writeToMarker, (body) => void wrote.push(body)],
  ])
})
const row = (name: RegExp) => screen.getByRole('row', { name })

test('markers stand with their lean, criterion by criterion, the most generous first; one is written to with their line alone', async () => {
  const { user } = inPage(<Compare />, { address: '/courses/c/compare?rows=markers&of=essay' })
  expect(
    screen
      .getAllByRole('row')
      .slice(1, 3)
      .map((r) => within(r).getAllByRole('button')[0]!.textContent),
  ).toEqual(['ny', 'mo'])
  // The four differences are 4, 3, 5 and 4.
  expect(row(/^ny 4/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: /^ny on Line and shade: \+1\.0 of 10/ }))
  // First those given more than the other reader gave.
  const people = within(screen.getByRole('heading', { name: /^4 scripts, Line and shade of 10/ }).closest('section')!)
  expect(people.getAllByRole('listitem').map((li) => li.textContent)).toEqual([
    'cy8others 4.0',
    'di8others 4.0',
    'ada8others 8.0',
    'bo4others 4.0',
  ])
  expect(people.getByRole('button', { name: 'Carry to sharing out' })).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'mo' }))
  expect(screen.getByRole('heading', { level: 2, name: /^mo/ })).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'Send them their line' }))
  await waitFor(() => expect(screen.getByText(/Sent: it stands in the post/)).toBeTruthy())
  expect(JSON.stringify(wrote)).toMatch(/essay: on 4 scripts that others read too, −2\.0 marks/)
  expect(JSON.stringify(wrote)).not.toMatch(/ny/)
})

test('scripts of a marker are read again by whoever suits', async () => {
  const { user } = inPage(<Compare />, { address: '/courses/c/compare?rows=markers&of=essay' })
  await user.click(screen.getByRole('button', { name: 'Have 4 scripts read again' }))
  await user.click(within(screen.getByRole('dialog')).getByRole('button', { name: /^Ask/ }))
  await waitFor(() => expect(asked).toHaveLength(1))
  expect((asked[0] as { wanted: unknown[] }).wanted[0]).toEqual({ assessmentId: 'essay', studentId: 'ada', markerId: null })
})

test('criteria: how often each level was given, what nobody was given, and who was given one', async () => {
  const { user } = inPage(<Compare />, { address: '/courses/c/compare?rows=criteria&of=essay' })
  expect(screen.getByText('Line and shade: nobody was given 0 or 10.')).toBeTruthy()
  expect(screen.getByText('points are free: it has no levels')).toBeTruthy()
  expect(
    screen.getByRole('img', { name: 'Line and shade: 0 points 0 times, 4 points 4 times, 8 points 4 times, 10 points 0 times' }),
  ).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'all' }))
  expect(screen.getByRole('heading', { name: '3 scripts given 8' })).toBeTruthy()
  expect(screen.getByText('by 2 readings')).toBeTruthy()
  await user.keyboard('{ArrowRight}')
  expect(screen.getByRole('heading', { name: '0 scripts given 10' })).toBeTruthy()
})

test('criteria of what has none are not there, and those that have some are offered', async () => {
  const { user } = inPage(<Compare />, { address: '/courses/c/compare?rows=criteria&of=paper' })
  await user.click(screen.getByRole('button', { name: 'essay' }))
  expect(screen.getByLabelText<HTMLSelectElement>('What is shown').value).toBe('essay')
})

test('years are matched by title, and what has no namesake is said', () => {
  inPage(<Compare />, { address: '/courses/c/compare?rows=years&of=paper' })
  expect(
    within(row(/^autumn before/))
      .getAllByRole('cell')
      .map((c) => c.textContent)
      .slice(2, 5),
  ).toEqual(['2', '22.0', '22.0'])
  expect(screen.getByText('essay has no namesake in autumn before.')).toBeTruthy()
  expect(screen.getByText('Composition has been in autumn before only.')).toBeTruthy()
})

test('sections given their other work: two vials each, and what follows in words', async () => {
  const { user } = inPage(<Compare />, { address: '/courses/c/compare?of=essay' })
  await user.click(screen.getByRole('button', { name: 'given their other work' }))
  expect(screen.getByRole('columnheader', { name: 'so' })).toBeTruthy()
  expect(within(row(/^East/)).getAllByRole('img')).toHaveLength(2)
  await user.type(screen.getByLabelText('Find among the sections'), 'wes')
  expect(screen.queryByRole('row', { name: /^East/ })).toBeNull()
  expect(screen.getByText(/4 read and not yet settled/)).toBeTruthy()
})
