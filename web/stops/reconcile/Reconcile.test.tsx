import { screen, waitFor, within } from '@testing-library/react'
import { useReducer } from 'react'
import { addChanges, type Change } from '#core/trial'
import { routes, type AskedReading } from '#contract'
import { scriptDetail } from '../../testing/data'
import { inPage, serverAnswers } from '../../testing/in-page'
import { smallCourse, smallFigures, smallTable } from '../../testing/small-course'
import Reconcile from './Reconcile'

let settledTable = false
const made = (agreed: Record<string, number>) =>
  smallTable(
    [
      ['ada', 'paper', 30],
      ['ada', 'essay', null],
      ['bo', 'paper', 20],
      ['bo', 'essay', null],
      ['cy', 'essay', null],
    ],
    [
      ['ada', 'essay', 'mo', 8],
      ['ada', 'essay', 'ny', 16],
      ['bo', 'essay', 'mo', 11],
      ['bo', 'essay', 'ny', 12],
      ['cy', 'essay', 'mo', 9],
    ],
    { agreed },
  )
const tableNow = () => made(settledTable ? { 'essay:ada': 12, 'essay:bo': 11.5 } : {})

let changes: Change[] = []
let draw: () => void = () => undefined
let mayDecide = true
let asked: AskedReading[] = []
const propose = (added: Change[]) => {
  changes = addChanges(changes, added)
  draw()
}
const setTrial = (next: Change[]) => {
  changes = next
  draw()
}
jest.mock('../../course/course', () => ({
  useFigures: (name: 'reconcile', ...of: [string | null]) => smallFigures(tableNow(), changes)(name, ...of),
  useCourse: () => ({ ...smallCourse(tableNow(), changes), propose, setTrial, mayDecide }),
  useDecidedCourse: () => ({ ...smallCourse(tableNow()), propose, mayDecide }),
}))

function Shown() {
  ;[, draw] = useReducer((n: number) => n + 1, 0)
  return <Reconcile />
}
/** Its readings come in another order than the queue has them in. */
const detail = (scriptId: string) =>
  scriptDetail(scriptId, {
    readings: ['ny', 'mo'].map((markerId) => ({
      markerId,
      marker: markerId,
      mark: 0,
      picks: { line: markerId === 'mo' ? 3 : 7 },
      judgement: null,
      comment: markerId === 'mo' ? 'Thin.' : 'Full.',
      criterionComments: {},
      notes: '',
      afterSeeing: false,
      earlier: [],
      madeMark: null,
      handedInAt: '2026-11-20T10:00:00.000Z',
    })),
    words: settledTable
      ? [
          {
            mark: 12,
            rule: { kind: 'mean' },
            by: 'Ines',
            at: '2026-11-21T10:00:00.000Z',
            reason: 'Within tolerance',
            readings: [
              { marker: 'Mo', mark: 8 },
              { marker: 'Ny', mark: 16 },
            ],
            inForce: true,
            holds: true,
          },
        ]
      : [],
  })

beforeEach(() => {
  changes = []
  settledTable = false
  mayDecide = true
  asked = []
  serverAnswers([
    [routes.script, (_, address) => detail(decodeURIComponent(address.split('/').at(-1)!))],
    [routes.library, () => ({ rubrics: [], schemes: [], scales: [], outcomes: [] })],
    [routes.furtherReadings, () => asked],
    [routes.between, () => []],
    [routes.notes, () => []],
  ])
})
const row = (name: string) => screen.getByText(name, { selector: 'td' }).closest('tr')!
const agreedOf = (name: string) => row(name).lastElementChild!.textContent
const settled = () => changes.map((c) => (c.kind === 'settle' ? [c.scriptId, c.mark] : c.kind))

test('scripts whose readings disagree come first, with what is at stake; one reading alone is none of them', () => {
  inPage(<Shown />)
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('2 scripts to settle')
  expect(screen.getByText(/1 over tolerance, 1 within/)).toBeTruthy()
  expect(screen.getAllByRole('row', { selected: true })[0]!.textContent).toMatch(/^ada/)
  expect(screen.queryByText('cy', { selector: 'td' })).toBeNull()
  expect([agreedOf('ada'), agreedOf('bo')]).toEqual(['open', 'open'])
  // 30 of 40 and 8 or 16 of 20, in halves: 57.5% or 77.5%.
  expect(within(row('ada')).getByText('Pass or Merit')).toBeTruthy()
})

test('a key settles it as a trial and goes on to the next; Delete leaves it open again', async () => {
  const { user } = inPage(<Shown />)
  await user.keyboard('h')
  expect([settled(), agreedOf('ada')]).toEqual([[['essay:ada', 16]], '16.0 trying'])
  expect(screen.getAllByRole('row', { selected: true })[0]!.textContent).toMatch(/^bo/)
  await user.keyboard('1')
  expect(settled()).toEqual([
    ['essay:ada', 16],
    ['essay:bo', 11],
  ])
  // As it is decided both are open still, here as at the stop.
  expect(screen.getByRole('heading', { level: 1 }).textContent).toBe('2 scripts to settle')
  expect(screen.getByText(/2 tried/)).toBeTruthy()
  await user.keyboard('{ArrowUp}{Delete}')
  expect([settled(), agreedOf('ada')]).toEqual([[['essay:bo', 11]], 'open'])
})

test('the script that one goes to is spoken, with how it stands; after settling, at what the one before was settled', async () => {
  const { user } = inPage(<Shown />)
  const spoken = () => screen.getAllByRole('status').map((s) => s.textContent)
  expect(spoken()).toContain('ada, essay: readings 8 and 16, spread 8, open. 1 of 2.')
  await user.keyboard('h')
  expect(spoken()).toContainEqual(expect.stringMatching(/^Settled at 16\.0\. bo, essay: readings 11 and .*, open\. 2 of 2\.$/))
  await user.keyboard('{ArrowUp}')
  expect(spoken()).toContainEqual(expect.stringMatching(/^ada, essay: .*, agreed 16\.0\. 1 of 2\.$/))
})

test('those within tolerance are settled together, by the rule chosen', async () => {
  const { user } = inPage(<Shown />)
  await user.selectOptions(screen.getByLabelText('Rule for scripts within tolerance'), 'the highest')
  await user.click(screen.getByRole('button', { name: /^Settle all 1/ }))
  expect(settled()).toEqual([['essay:bo', 12]])
})

test('a mark of one’s own needs a reason, and lies within what it is marked out of', async () => {
  const { user } = inPage(<Shown />)
  await user.keyboard('o')
  await user.keyboard('21')
  expect(screen.getByText('Give a mark from 0 to 20.')).toBeTruthy()
  await user.keyboard('{Backspace}0{Backspace}3{Backspace}{Backspace}13{Enter}')
  expect(settled()).toEqual([])
  await user.type(screen.getByLabelText('because'), 'Both missed the appendix.{Enter}')
  expect(changes[0]).toMatchObject({ kind: 'settle', scriptId: 'essay:ada', mark: 13, rule: { reason: 'Both missed the appendix.' } })
})

test('the close-up shows each reading in the order of the queue, with what its marker wrote', async () => {
  inPage(<Shown />)
  await waitFor(() => expect(screen.getByText('Thin.')).toBeTruthy())
  const closeUp = within(screen.getByRole('complementary'))
  expect(closeUp.getAllByRole('columnheader').map((h) => h.textContent!.trim())).toEqual(['', 'mo', 'ny', 'apart'])
  expect([...document.querySelectorAll('blockquote')].map((q) => q.textContent)).toEqual(['Thin.', 'Full.'])
  expect(closeUp.getByRole('button', { name: /^H highest 16\.0/ })).toBeTruthy()
})

test('who only looks on settles nothing', async () => {
  mayDecide = false
  const { user } = inPage(<Shown />)
  await user.keyboard('mb')
  expect(changes).toEqual([])
  expect(screen.queryByRole('button', { name: /highest|Settle/ })).toBeNull()
})

test('a further reading that was asked for shows as waiting, and can be asked for no longer', async () => {
  asked = [
    {
      assessmentId: 'essay',
      studentId: 'ada',
      markerId: 'ny',
      because: 'far apart',
      askedAt: '2026-11-20T10:00:00.000Z',
      state: 'waiting',
    },
  ]
  inPage(<Shown />)
  await waitFor(() => expect(within(row('ada')).getByText('reading asked for')).toBeTruthy())
  expect(screen.getByRole('button', { name: 'No longer' })).toBeTruthy()
})

test('what was agreed before is told with who, when, why and on which readings; a settled script is opened again by a decision', async () => {
  settledTable = true
  const { user } = inPage(<Shown />)
  await waitFor(() => expect(screen.getByText(/by the mean/)).toBeTruthy())
  expect(screen.getByText(/Within tolerance/)).toBeTruthy()
  expect(screen.getByText(/readings then: Mo 8, Ny 16/)).toBeTruthy()
  await user.click(screen.getByRole('button', { name: /^Open it again/ }))
  expect(changes).toEqual([{ kind: 'reopen', scriptId: 'essay:ada' }])
  expect(agreedOf('ada')).toBe('open again trying')
  await user.keyboard('{Delete}')
  expect(changes).toEqual([])
})
