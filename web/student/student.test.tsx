import { screen, within } from '@testing-library/react'
import { addDays, format, parseISO } from 'date-fns'
import { routes, type OwnWork } from '#contract'
import { today } from '../parts/format'
import { courseHead, self } from '../testing/data'
import { inPage, reload, serverAnswers } from '../testing/in-page'
import StudentFrame from './StudentFrame'

beforeEach(() => localStorage.clear())

const ME = self('ada', 'Ada')
const rowsOf = (title: string) =>
  within(screen.getByRole('heading', { name: title }).closest('section')!)
    .getAllByRole('row')
    .slice(1)
    .map((r) => r.textContent)
const COURSE = courseHead('student')
const work = (assessment: string, more: Partial<OwnWork['work'][number]> = {}): OwnWork['work'][number] => ({
  id: assessment,
  assessment,
  due: '2026-11-16',
  released: false,
  mark: null,
  outOf: 20,
  status: null,
  remarks: [],
  levels: null,
  standard: null,
  exemplars: [],
  asking: null,
  handIn: null,
  ...more,
})
const seen = (all: OwnWork['work'], more: Partial<OwnWork> = {}) => {
  serverAnswers([
    [
      routes.ownWork,
      () => ({
        name: 'Ada',
        candidate: '4711',
        section: 'East',
        codeName: null,
        work: all,
        course: null,
        standings: [],
        result: null,
        earlier: [],
        ...more,
      }),
    ],
  ])
  return inPage(<StudentFrame me={ME as never} courses={[COURSE]} head={COURSE} />)
}
test('sees marks that are released, aligned on the decimal, and of all else that it is not yet', async () => {
  seen([
    work('Sketch', { released: true, mark: 12.5, status: 'in' }),
    work('Paper', { released: true, mark: 9, status: 'late' }),
    work('Talk'),
    work('Viva', { released: true, status: 'absent', due: null }),
  ])
  await screen.findByText('12.5')
  expect(rowsOf('Back')).toEqual(['Vivano day yetabsent', 'PaperMon 16 Nov9.0of 20', 'SketchMon 16 Nov12.5of 20'])
  expect(rowsOf('Not back yet')).toEqual(['TalkMon 16 Novnot released'])
  expect(screen.queryByRole('heading', { name: 'Coming' })).toBeNull()
})

test('reads the confirmed result, why it is that, and what stood before it', async () => {
  seen([work('Sketch')], {
    result: {
      issue: 1,
      percent: 64.5,
      grade: 'Pass',
      pending: 0,
      components: [{ title: 'Written paper', percent: 38, words: ['Paper: 30.4 of 80.', 'It weighs 40.'] }],
      steps: ['By their weights the parts make 64.5%.', 'Pass begins at 50.'],
    },
    earlier: [{ issue: 0, percent: 60, grade: 'Refer', changed: ['The grade was Refer and is Pass.'] }],
  })
  const result = await screen.findByRole('region', { name: 'Your result' })
  expect(result.textContent).toMatch(/^Your result: Pass, 64.5%Confirmed, issue 1\./)
  expect(
    within(result)
      .getAllByRole('listitem')
      .map((l) => l.textContent),
  ).toEqual(['Paper: 30.4 of 80.', 'It weighs 40.', 'By their weights the parts make 64.5%.', 'Pass begins at 50.'])
  expect(result.textContent).toMatch(/Before, in issue 0: Refer, 60%The grade was Refer and is Pass\./)
})

test('opens what was remarked, reading by reading, without who it was', async () => {
  const remarks = [
    { comment: 'A clear ridge.', parts: [{ title: 'Line', words: 'Steady.', points: { given: 6, of: 8, takenOff: false } }] },
    { comment: '', parts: [{ title: 'Late', words: 'By a day.', points: { given: 2, of: 4, takenOff: true } }] },
  ]
  const { user } = seen([work('Sketch', { released: true, mark: 12, remarks })])
  await user.click(await screen.findByRole('button', { name: 'Sketch' }))
  const region = screen.getByRole('region', { name: /remarked on your Sketch/ })
  expect(
    within(region)
      .getAllByRole('article')
      .map((a) => a.textContent),
  ).toEqual(['Reading 1A clear ridge.Line 6 of 8Steady.', 'Reading 2Late −2 of at most −4By a day.'])
  await user.click(screen.getByRole('button', { name: 'Sketch' }))
  expect(screen.queryByRole('region', { name: /remarked/ })).toBeNull()
})

test('with nothing set is told what will be here', async () => {
  seen([])
  expect(await screen.findByText(/Nothing is set for you yet/)).toBeTruthy()
})

test('what is to come stands first, the next first, with how far off it is', async () => {
  const day = (by: number) => format(addDays(parseISO(today()), by), 'yyyy-MM-dd')
  seen([work('Far', { due: day(12) }), work('Now', { due: day(0) }), work('Near', { due: day(1) }), work('Gone')])
  await screen.findByRole('heading', { name: 'Coming' })
  expect(rowsOf('Coming').map((r) => r.replace(/[A-Z][a-z]{2} \d+ [A-Z][a-z]{2}/, ' '))).toEqual([
    'Now  todaynot released',
    'Near  in 1 daynot released',
    'Far  in 12 daysnot released',
  ])
  expect(rowsOf('Not back yet')).toHaveLength(1)
})

test('what came back since one was here stands first; the first time nothing is new, and seen once it is old', async () => {
  const marked = (mark: number | null) => [
    work('Sketch', { released: mark !== null, mark, status: 'in' }),
    work('Paper', { released: true, mark: 9, status: 'in' }),
  ]
  const NEW = 'New since you were here'
  seen(marked(null))
  await screen.findByText('Paper')
  expect(screen.queryByRole('heading', { name: NEW })).toBeNull()
  reload()
  seen(marked(12))
  await screen.findByText('Sketch')
  expect([rowsOf(NEW), rowsOf('Back')]).toEqual([['SketchMon 16 Nov12of 20'], ['PaperMon 16 Nov9of 20']])
  reload()
  seen(marked(12))
  await screen.findByText('Sketch')
  expect(screen.queryByRole('heading', { name: NEW })).toBeNull()
})

test('where one stands is a place and a word, with what comes next; with nothing seen that is said', async () => {
  const levels = ['begins', 'with help', 'alone'].map((label) => ({ label, words: `${label} in words` }))
  const outcome = { title: 'Closes', statement: 'Carries the sums to a close.', levels, reached: 2 }
  seen([], {
    standings: [
      { ...outcome, level: 2, isReached: true, results: 2, history: [1, 2] },
      { ...outcome, title: 'Draws', level: null, isReached: false, results: 0, history: [] },
    ],
  })
  // It stands beside the list or in it, as there is room.
  const [own] = (await screen.findAllByRole('region', { name: 'Where you stand' })) as [HTMLElement]
  expect(within(own).getByRole('img', { name: 'with help, reached, 2 results; before: begins' })).toBeTruthy()
  expect(within(own).getByText(/^with help in words/).textContent).toBe('with help in words Next, alone: alone in words')
  expect(within(own).getByText('not seen yet')).toBeTruthy()
})

test('while a course is looked at again it says so in the place of where one stands', async () => {
  seen([], { standings: null })
  const [own] = (await screen.findAllByRole('region', { name: 'Where you stand' })) as [HTMLElement]
  expect(within(own).getByText(/^The course is being looked at again/)).toBeTruthy()
})

test('what one’s work reached is shown on the rubric, level by level, and whether its readers agreed on it', async () => {
  const levels = (points: number[], words: string[]) => points.map((p, i) => ({ points: p, words: words[i]! }))
  const standard: NonNullable<OwnWork['work'][number]['standard']> = {
    kind: 'rubric',
    id: 'r',
    title: 'A map',
    version: 1,
    body: {
      criteria: [
        { id: 'line', title: 'Line', ranges: false, penalty: false, levels: levels([0, 4, 8], ['none', 'some', 'all of it']) },
        { id: 'relief', title: 'Relief', ranges: false, penalty: false, levels: levels([0, 2], ['flat', 'rises']) },
      ],
    },
  }
  const judged = { picks: { line: 4, relief: 2 }, judgement: null, mark: null }
  const { user } = seen([work('Map', { released: true, mark: 12, status: 'in', levels: { standard, judged, agreed: true } })])
  await user.click(await screen.findByRole('button', { name: 'Map' }))
  expect(screen.getByText('Agreed on by its readers, criterion by criterion.')).toBeTruthy()
  const line = screen.getByRole('radiogroup', { name: 'Line' })
  expect(
    within(line)
      .getAllByRole('radio')
      .map((r) => r.getAttribute('aria-checked')),
  ).toEqual(['false', 'true', 'false'])
  expect(within(line).getByText(/some/)).toBeTruthy()
  // And as a list, for who does not see the rulers.
  const inWords = screen.getByRole('list', { name: 'In words' })
  expect(
    within(inWords)
      .getAllByRole('listitem')
      .map((l) => l.textContent),
  ).toEqual(['Line: 4 of 8, some', 'Relief: 2 of 2, rises'])
  await user.click(screen.getByRole('button', { name: '‹ all work' }))
  expect(screen.queryByRole('radiogroup')).toBeNull()
  expect(document.activeElement).toBe(screen.getByRole('button', { name: 'Map' }))
})
