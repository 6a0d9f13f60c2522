import { screen, waitFor, within } from '@testing-library/react'
import { routes, type Decision } from '#contract'
import { USUAL_SETTINGS } from '#contract/own-settings'
import { page } from '../../api/client'
import type { Withdrawal } from '../../course/withdrawal'
import { inPage, Refuses, serverAnswers } from '../../testing/in-page'
import Record from './Record'

let mayDecide = true
const refresh = jest.fn(async () => undefined)
let does: Withdrawal = { decisionId: 'd1', change: null, problem: null }
const TABLE = {
  students: [{ id: 'ada', name: 'Ada Quill', candidate: '101', sectionId: 's' }],
  sections: [],
  markers: [],
  components: [],
  assessments: [{ id: 'map', title: 'Map project' }],
  adjustments: [],
  boundaries: [],
}
jest.mock('../../course/course', () => ({
  useWithdrawal: () => does,
  useDecidedCourse: () => ({ id: 'c', mayDecide, refresh, table: TABLE }),
}))
jest.mock('./RollFiles', () => ({ RollFiles: () => null }))
jest.mock('./Looks', () => ({ Looks: () => null }))
beforeEach(() => {
  does = { decisionId: 'd1', change: null, problem: null }
  mayDecide = true
  refresh.mockClear()
})

const decision = (id: string, more: Partial<Decision> = {}): Decision => ({
  id,
  kind: 'bound',
  summary: 'Merit begins at 69',
  changes: [{ kind: 'bound', boundaries: [{ grade: 'Pass', from: 0 }] }],
  effect: { percents: 0, grades: 2, up: 2, down: 0, reversed: 0 },
  reason: 'the paper was hard',
  by: 'Ines Valdry',
  at: '2026-11-20T10:00:00.000Z',
  withdrawn: null,
  ...more,
})
const withdrawn = decision('d2', {
  summary: '3 scripts settled by mean',
  kind: 'reconcile',
  changes: [{ kind: 'settle', scriptId: 'map:ada', rule: { kind: 'value', mark: 61, reason: 'Relief read twice' }, step: null, mark: 61 }],
  by: 'Perrin Ault',
  withdrawn: { by: 'Ines Valdry', at: '2026-11-21T10:00:00.000Z', reason: 'too early' },
})

function show(answer: unknown = withdrawn) {
  const server = serverAnswers([
    [routes.record, () => [decision('d1'), withdrawn]],
    [routes.withdraw, () => answer],
    [routes.notes, () => []],
  ])
  return { ...server, ...inPage(<Record />) }
}

test('what was decided, by whom, what it did and why; what was withdrawn is not in force', async () => {
  show()
  const row = await screen.findByRole('row', { name: /Merit begins at 69/ })
  expect(within(row).getByText('2 up')).toBeTruthy()
  expect(screen.getByText('1 decision in force')).toBeTruthy()
  expect(within(screen.getByRole('row', { name: /3 scripts settled/ })).getByText('withdrawn')).toBeTruthy()
  expect(screen.getByText('the paper was hard')).toBeTruthy()
})

test('what was decided stands with one’s own decimals, and what people named as they wrote it', async () => {
  page.settings = { ...USUAL_SETTINGS, decimal: 'comma' }
  serverAnswers([
    [routes.record, () => [decision('d1', { summary: 'Map project rescaled by 1.05, Merit begins at 69.5' })]],
    [routes.notes, () => []],
  ])
  inPage(<Record />)
  expect(await screen.findByRole('row', { name: /Map project rescaled by 1,05, Merit begins at 69,5/ })).toBeTruthy()
  page.settings = USUAL_SETTINGS
})

test('it is withdrawn with a reason, and what hangs on it is fetched anew', async () => {
  const { user, sent } = show()
  await screen.findByText('the paper was hard')
  await user.type(screen.getByLabelText('Withdraw it, because'), 'a better idea')
  await user.click(screen.getByRole('button', { name: /^Withdraw/ }))
  await waitFor(() => expect(refresh).toHaveBeenCalledTimes(1))
  expect(sent.map((s) => [s.address, s.body])).toEqual([['/api/courses/c/decisions/d1/withdraw', { reason: 'a better idea' }]])
})

test('where it is refused the reason stays typed and is answered', async () => {
  const { user } = show(new Refuses(409, 'Ines Valdry withdrew it already.'))
  await screen.findByText('the paper was hard')
  await user.type(screen.getByLabelText('Withdraw it, because'), 'a better idea')
  await user.click(screen.getByRole('button', { name: /^Withdraw/ }))
  expect(await screen.findByText('Ines Valdry withdrew it already.')).toBeTruthy()
  expect(screen.getByLabelText<HTMLInputElement>('Withdraw it, because').value).toBe('a better idea')
})

test('who may not decide only reads it', async () => {
  mayDecide = false
  show()
  await screen.findByText('the paper was hard')
  expect(screen.queryByRole('button', { name: /^Withdraw/ })).toBeNull()
})

test.each<[string, Partial<Withdrawal>, RegExp]>([
  [
    'who would move',
    {
      change: {
        percents: 12,
        movers: ['ada', 'bo', 'cy'].map((studentId) => ({
          studentId,
          fromGrade: 'Merit',
          toGrade: 'Credit',
          fromPercent: 70,
          toPercent: 70,
          direction: -1,
        })),
        up: 1,
        down: 2,
        gained: 0,
        lost: 0,
        renamed: 0,
        reversed: 0,
        pairs: [],
      } as Withdrawal['change'],
    },
    /12 percents and 3 grades would change: 1 up, 2 down/,
  ],
  [
    'that nothing would',
    { change: { percents: 0, movers: [], up: 0, down: 0, gained: 0, lost: 0, renamed: 0, reversed: 0, pairs: [] } },
    /later decisions say the same/,
  ],
  ['why it can’t be', { problem: 'Merit at 60 is not above Credit at 62.' }, /can’t be withdrawn as things stand: Merit at 60/],
  ['that it can’t be told', {}, /changed scripts or readings/],
])('before it is withdrawn it is said %s', async (_, found, words) => {
  does = { ...does, ...found }
  show()
  expect(await screen.findByText(words)).toBeTruthy()
})

test('it is found by student, by stop, by person and by day; what it touched stands with mark, rule and reason', async () => {
  const { user } = show()
  await screen.findByRole('row', { name: /Merit begins at 69/ })
  const words = screen.getByLabelText('A student, a day or a word')
  await user.type(words, 'quill')
  expect(screen.queryByRole('row', { name: /Merit begins at 69/ })).toBeNull()
  const scripts = screen.getByRole('list', { name: '1 script' })
  expect(scripts.textContent).toBe('Ada Quill Map project61 by a mark of the lead’s ownRelief read twice')
  await user.clear(words)
  await user.type(words, '20 November')
  expect(screen.getByRole('row', { name: /Merit begins at 69/ })).toBeTruthy()
  await user.clear(words)
  await user.selectOptions(screen.getByLabelText('Where'), 'Bound')
  expect(screen.queryByRole('row', { name: /3 scripts settled/ })).toBeNull()
  await user.selectOptions(screen.getByLabelText('Who'), 'Perrin Ault')
  expect(screen.getByText('No decision answers to that.')).toBeTruthy()
})
