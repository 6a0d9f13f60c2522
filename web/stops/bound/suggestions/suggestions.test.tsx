import { screen, waitFor } from '@testing-library/react'
import { routes, type LineList } from '#contract'
import { inPage, serverAnswers } from '../../../testing/in-page'
import { smallTable } from '../../../testing/small-course'
import { smallTrial } from '../../../testing/small-trial'
import { SuggestionsPart } from './SuggestionsPart'

const TABLE = smallTable(
  [
    ['ada', 'paper', 36],
    ['ada', 'essay', 18],
    ['bo', 'paper', 22],
    ['bo', 'essay', 10],
    ['cy', 'paper', 26],
    ['cy', 'essay', 13],
    ['di', 'paper', 14],
    ['di', 'essay', 6],
  ],
  [],
  {
    boundaries: [
      { grade: 'Merit', from: 60 },
      { grade: 'Pass', from: 40 },
      { grade: 'Refer', from: 0 },
    ],
  },
)
const trial = smallTrial(TABLE)
jest.mock(
  '../../../course/course',
  () => jest.requireActual<typeof import('../../../testing/small-trial')>('../../../testing/small-trial').inItsPlace,
)
jest.mock('../../../parts/useEarlierLines', () => ({ useEarlierLines: () => [] }))
// Charts are looked at in a real browser.
jest.mock('../lines/BoundChart', () => ({ BoundChart: () => null }))
jest.mock('./CouldChart', () => ({ CouldChart: () => null }))

let lists: LineList[] = []
const show = () => {
  const server = serverAnswers([
    [routes.lineLists, () => lists],
    [routes.toJudge, () => []],
    [routes.coursePeople, () => []],
    [routes.closeLineList, () => void (lists = lists.map((l) => ({ ...l, closedAt: '2026-12-02T10:00:00.000Z', judgements: SAID })))],
  ])
  return { ...server, ...inPage(<trial.Drawn>{() => <SuggestionsPart nav={null} />}</trial.Drawn>) }
}
const SAID = [
  { studentId: 'ada', able: true },
  { studentId: 'cy', able: true },
  { studentId: 'bo', able: false },
  { studentId: 'di', able: false },
]
const LIST: LineList = {
  id: 'l',
  grade: 'Merit',
  by: 'Ines Valdry',
  at: '2026-12-01T10:00:00.000Z',
  closedAt: null,
  students: 4,
  judges: [{ id: 'mo', name: 'Mo', judged: 4 }],
  judgements: [],
}
beforeEach(() => {
  trial.begin()
  lists = [LIST]
})
const tried = () => trial.changes.flatMap((c) => (c.kind === 'bound' ? [c.boundaries.map((b) => b.from)] : []))

test('a gap is offered with what decides alike, and tried on one press; where nobody is, it says why there is none', async () => {
  const { user } = show()
  await user.clear(screen.getByLabelText('Look within so many percent'))
  await user.type(screen.getByLabelText('Look within so many percent'), '8{Enter}')
  // 52.5 and 65 lie within 8 of 60, and nobody between them.
  await user.click(await screen.findByRole('button', { name: 'Try Merit at 59' }))
  expect(tried()).toEqual([[59, 40, 0]])
  expect(screen.getByText(/Fewer than two different percents lie within 8 of 40/)).toBeTruthy()
})

test('shares typed give the lines that come nearest; what does not add up is said', async () => {
  const { user } = show()
  await user.click(screen.getByRole('button', { name: 'shares' }))
  const type = async (grade: string, share: string) => {
    const field = screen.getByLabelText(`Share of ${grade}`)
    await user.clear(field)
    await user.type(field, `${share}{Enter}`)
  }
  await type('Merit', '25')
  await type('Pass', '50')
  await type('Refer', '20')
  expect(screen.getByText(/They should come to 100/)).toBeTruthy()
  await type('Refer', '25')
  await user.click(screen.getByRole('button', { name: 'Try them all' }))
  // One of four above, one of four below.
  const [[merit, pass]] = tried() as [[number, number]]
  expect([merit > 65 && merit <= 90, pass > 32.5 && pass <= 52.5]).toEqual([true, true])
})

test('what was said of whom is shown once the list is closed, and then gives a line', async () => {
  const { user } = show()
  await user.click(screen.getByRole('button', { name: 'could or could not' }))
  expect(await screen.findByText('What was said of whom is shown once the list is closed.')).toBeTruthy()
  expect(screen.getByText(/Mo 4 of 4/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: /^Close it…/ }))
  expect(screen.getByRole('group', { name: 'Close this list?' }).textContent).toMatch(/judgements? (is|are) missing|Everything is judged/)
  await user.click(screen.getByRole('button', { name: 'Close it' }))
  // 52.5 could not, 65 could: the middle between them.
  await waitFor(() => expect(screen.getByRole('button', { name: 'Try Merit at 58.75' })).toBeTruthy())
})
