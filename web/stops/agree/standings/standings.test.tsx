import { screen, waitFor, within } from '@testing-library/react'
import { routes, type CourseOutcomes, type JudgedReadings, type PeopleGroup } from '#contract'
import { OUTCOME_FIGURES } from '../../../course/figures'
import { courseHead, scriptDetail } from '../../../testing/data'
import { inPage, Refuses, serverAnswers } from '../../../testing/in-page'
import { smallState, smallTable } from '../../../testing/small-course'
import { smallTrial } from '../../../testing/small-trial'
import { StandingsAhead } from './StandingsAhead'
import { StandingsPart } from './StandingsPart'

const TABLE = smallTable(
  ['ada', 'bo', 'cy', 'di'].map((s) => [s, 'essay', null]),
  [
    ['ada', 'essay', 'mo', 18],
    ['bo', 'essay', 'mo', 10],
    ['cy', 'essay', 'mo', 4],
  ],
  { head: courseHead('lead') },
)
const JUDGED: JudgedReadings = {
  assessmentId: 'essay',
  criteria: [{ id: 'line', title: 'Line', max: 8, penalty: false, levels: [] }],
  students: ['ada', 'bo', 'cy'],
  markers: ['mo'],
  student: [0, 1, 2],
  marker: [0, 0, 0],
  mark: [18, 10, 4],
  points: [[8, 4, 0]],
  agreed: { student: [], points: [[]] },
}
const OUTCOME: CourseOutcomes['outcomes'][number] = {
  id: 'o',
  title: 'Closes and says by how much',
  statement: 'Carries the sums to a close.',
  levels: ['begins', 'with help', 'alone'].map((label) => ({ label, words: '' })),
  reached: 3,
  rule: { kind: 'latest' },
  mine: true,
  owner: 'Ines Valdry',
  revision: 4,
  shown: false,
  judgements: [],
}
let given: CourseOutcomes
let groups: PeopleGroup[]
beforeEach(() => {
  groups = []
  given = {
    outcomes: [OUTCOME],
    links: [{ outcomeId: 'o', assessmentId: 'essay', criterionId: 'line', title: 'Line', from: [0, 4, 8] }],
    judged: [],
    typed: [],
  }
})

const mockAhead: unknown[][] = []
jest.mock('../../../course/course', () => ({
  ...jest.requireActual<typeof import('../../../testing/small-trial')>('../../../testing/small-trial').inItsPlace,
  useOutcomeFiguresAhead: (...asked: unknown[]) => void mockAhead.push(asked),
  useOutcomeFigures: (name: keyof typeof OUTCOME_FIGURES, known: CourseOutcomes | undefined, _: number, ...args: unknown[]) =>
    known && (OUTCOME_FIGURES[name] as (...all: unknown[]) => unknown)(smallState(TABLE, []), [JUDGED], known, ...args),
}))

function show() {
  smallTrial(TABLE)
  const server = serverAnswers([
    [routes.courseOutcomes, () => given],
    [routes.groups, () => groups],
    [routes.byStanding, () => []],
    [
      routes.keepGroup,
      (body: { name: string; studentIds: string[] }) => {
        const made = { id: 'g', ...body, by: 'Ines Valdry', at: '2026-11-01T10:00:00.000Z' }
        groups = [made]
        return made
      },
    ],
    [routes.dropGroup, () => void (groups = [])],
    [
      routes.typeEvidence,
      (body: { studentId: string; level: number; day: string; note: string }) => {
        const made = { id: 't', outcomeId: 'o', ...body, by: 'Ines Valdry', at: '2026-11-01T10:00:00.000Z' }
        given = { ...given, typed: [made] }
        return made
      },
    ],
    [routes.takeBackEvidence, () => void (given = { ...given, typed: [] })],
    [
      routes.setOutcome,
      (body: { shown: boolean; judgements: string[] }) => void (given = { ...given, outcomes: [{ ...OUTCOME, ...body }] }),
    ],
  ])
  return { server, ...inPage(<StandingsPart nav={null} />, { address: '/courses/c/agree/standings' }) }
}
const rulers = () => screen.getAllByRole('img', { name: /reached/ }).map((r) => r.getAttribute('aria-label'))
const count = () => screen.getByText(/^\d+ of 4$/).textContent

test('each stands at a place and a word, told in words; who was not seen says so', async () => {
  show()
  expect(await screen.findByText('4 of 4')).toBeTruthy()
  expect(rulers()).toEqual(['alone, reached, 1 result', 'with help, not reached, 1 result', 'begins, not reached, 1 result'])
  expect(screen.getByText('not seen yet')).toBeTruthy()
  expect(screen.getByRole('img', { name: 'begins 33%, with help 33%, alone 33%; 1 without enough evidence' })).toBeTruthy()
  const close = screen.getByRole('complementary', { name: 'Close-up' })
  expect(within(close).getByRole('row', { name: /^East 50%/ })).toBeTruthy()
})

test('a stretch of levels is walked by key; those there are kept as a group, found by it again, and it is dropped', async () => {
  const { user, server } = show()
  const upTo = await screen.findByRole('slider', { name: 'Who stands up to' })
  upTo.focus()
  await user.keyboard('{ArrowLeft}')
  expect([count(), upTo.getAttribute('aria-valuetext')]).toEqual(['2 of 4', 'with help'])
  await user.keyboard('{Home}')
  expect(count()).toBe('1 of 4')
  // It never comes below where the stretch begins.
  screen.getByRole('slider', { name: 'Who stands from' }).focus()
  await user.keyboard('{End}')
  expect(count()).toBe('1 of 4')
  await user.type(screen.getByLabelText('Name of the group'), 'Next field day{Enter}')
  expect(await screen.findByRole('heading', { name: 'Next field day' })).toBeTruthy()
  expect(server.sent[0]!.body).toEqual({ name: 'Next field day', studentIds: ['cy'] })
  await user.click(screen.getByRole('button', { name: 'Drop the group Next field day' }))
  await waitFor(() => expect(count()).toBe('4 of 4'))
})

test('without enough evidence, by section and by name', async () => {
  const { user } = show()
  await user.click(await screen.findByRole('button', { name: 'not enough evidence' }))
  expect(count()).toBe('1 of 4')
  await user.click(screen.getByRole('button', { name: 'everybody' }))
  await user.selectOptions(screen.getByLabelText('Section'), 'East')
  expect(count()).toBe('2 of 4')
  await user.type(screen.getByLabelText('Find a student'), 'ada')
  expect(count()).toBe('1 of 4')
})

test('a rule that is tried says who would stand otherwise before it is set, and setting it edits the outcome', async () => {
  given.typed = [
    {
      id: 't',
      outcomeId: 'o',
      studentId: 'bo',
      level: 3,
      day: '2026-09-01',
      note: 'seen early',
      by: 'Ines Valdry',
      at: '2026-09-01T10:00:00.000Z',
    },
  ]
  given = { ...given, outcomes: [{ ...given.outcomes[0]!, group: ['Field work', 'Lines'] }] }
  const { user, server } = show()
  server.answer(routes.editStandard, () => new Refuses(409, 'It was edited meanwhile.'))
  await user.selectOptions(await screen.findByLabelText('Try another rule'), 'the highest result')
  expect(await screen.findByText(/1 more would be alone/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: 'See who' }))
  expect(count()).toBe('1 of 4')
  await user.click(screen.getByRole('button', { name: 'Set it so' }))
  expect((await screen.findByRole('alert')).textContent).toBe('It was edited meanwhile.')
  expect(server.sent.at(-1)!.body).toMatchObject({
    revision: 4,
    standard: { kind: 'outcome', body: { rule: { kind: 'highest' }, group: ['Field work', 'Lines'] } },
  })
  await user.click(screen.getByRole('button', { name: 'Leave it' }))
  expect(count()).toBe('4 of 4')
})

test('a student opens into every result; one is noted by hand, counts at once, and is taken back', async () => {
  const { user } = show()
  await user.click(await screen.findByRole('button', { name: 'cy' }))
  expect(await screen.findByRole('heading', { name: 'Note a result' })).toBeTruthy()
  const close = screen.getByRole('complementary', { name: 'Close-up' })
  expect(within(close).getByText('Line')).toBeTruthy()
  await user.type(screen.getByLabelText('What it rests on'), 'Closed on the bolt, unasked')
  await user.click(screen.getByRole('button', { name: 'Note it' }))
  expect(await screen.findByText(/Closed on the bolt, unasked/)).toBeTruthy()
  expect(rulers()).toContain('alone, reached, 2 results; before: begins')
  await user.click(screen.getByRole('button', { name: 'take it back' }))
  await waitFor(() => expect(screen.queryByText(/Closed on the bolt/)).toBeNull())
  await user.click(screen.getByRole('button', { name: 'back to everybody' }))
  expect(screen.getByRole('heading', { name: OUTCOME.title })).toBeTruthy()
})

test('whether students see it is set here', async () => {
  const { user, server } = show()
  await user.click(await screen.findByLabelText('students see where they stand on it'))
  await waitFor(() => expect(screen.getByLabelText<HTMLInputElement>('students see where they stand on it').checked).toBe(true))
  expect(server.sent.at(-1)!.body).toEqual({ shown: true, judgements: [] })
})

test('where nothing gives evidence it says what to do', async () => {
  given = { outcomes: [], links: [], judged: [], typed: [] }
  show()
  expect(await screen.findByText(/^Nothing here gives evidence of an outcome yet/)).toBeTruthy()
})

test('last year stands beside this one where the same was followed then, section by section', async () => {
  const before = courseHead('lead', {
    id: 'before',
    term: 'autumn 2025',
    confirmedIssue: 1,
    issueInForce: 1,
    firstDay: '2025-09-08',
    lastDay: '2025-12-19',
  })
  const counts = { perLevel: [1, 0, 3], none: 0, reached: 3 }
  serverAnswers([
    [routes.courseOutcomes, () => given],
    [routes.groups, () => groups],
    [routes.byStanding, () => []],
    [routes.outcomeShares, () => ({ term: 'autumn 2025', outcomes: [{ outcomeId: 'o', levels: 3, all: counts, sections: [] }] })],
  ])
  smallTrial(TABLE)
  inPage(<StandingsPart nav={null} />, { known: [[['courses'], [TABLE.head, before]]] })
  expect(await screen.findByRole('columnheader', { name: 'autumn 2025' })).toBeTruthy()
  const everyone = screen.getByRole('row', { name: /^everyone \d/ })
  expect(
    within(everyone)
      .getAllByRole('cell')
      .map((c) => c.textContent),
  ).toEqual(['everyone', '25%', '', '75%'])
})

test('a result opens into its script', async () => {
  const { user, server } = show()
  const attempt = { number: 1, kind: 'text' as const, text: 'Drawn to the bolt.', cameAt: null }
  server.answer(routes.script, () => scriptDetail('essay:ada', { attempts: [attempt] }))
  await user.click(await screen.findByRole('button', { name: 'ada' }))
  await user.click(await screen.findByRole('button', { name: /^The script of/ }))
  expect(await screen.findByText('Drawn to the bolt.')).toBeTruthy()
  expect(screen.getByRole('link', { name: 'All that the student did' }).getAttribute('href')).toBe('/courses/c/students/ada')
})

test('while another part is looked at the same is asked for ahead, once that part stands; nothing where nothing gives evidence', async () => {
  serverAnswers([[routes.courseOutcomes, () => given]])
  mockAhead.length = 0
  const { show } = inPage(<StandingsAhead courseId="c" />)
  const asked = () => mockAhead.filter(([, of]) => of)
  expect(asked()).toEqual([])
  await waitFor(() => expect(mockAhead.at(-1)).toEqual(['standings', given, expect.any(Number), null]), { timeout: 5000 })
  given = { ...given, links: [] }
  show(<StandingsAhead key="again" courseId="none" />)
  await waitFor(() => expect(mockAhead.at(-1)).toEqual(['standings', undefined, expect.any(Number), null]), { timeout: 5000 })
})
