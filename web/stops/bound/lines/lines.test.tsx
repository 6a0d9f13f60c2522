import { screen } from '@testing-library/react'
import { inPage } from '../../../testing/in-page'
import { smallTable } from '../../../testing/small-course'
import { smallTrial } from '../../../testing/small-trial'
import { LinesPart } from './LinesPart'

const TABLE = smallTable(
  [
    ['ada', 'paper', 30],
    ['ada', 'essay', 15],
    ['bo', 'paper', 20],
    ['bo', 'essay', 10],
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
// The chart is looked at in a real browser.
jest.mock('./BoundChart', () => ({ BoundChart: () => null }))

beforeEach(() => trial.begin())
const start = () => {
  const page = inPage(<trial.Drawn>{() => <LinesPart nav={null} />}</trial.Drawn>)
  const set = async (grade: string, from: string) => {
    const field = screen.getByLabelText(`${grade} begins at`)
    await page.user.clear(field)
    await page.user.type(field, `${from}{Enter}`)
  }
  return { ...page, set }
}
const tried = () => trial.changes.map((c) => (c.kind === 'bound' ? c.boundaries.map((b) => b.from) : c.kind))
const valueOf = (grade: string) => screen.getByLabelText<HTMLInputElement>(`${grade} begins at`).value

test('limits typed one after the other are tried as a set, once they can be in force', async () => {
  const { set } = start()
  await set('Merit', '35')
  expect(screen.getByRole('alert').textContent).toMatch(/The limits as typed are not tried: Merit 60, Pass 40, Refer 0 are in force/)
  expect(valueOf('Merit')).toBe('35')
  expect(tried()).toEqual([])
  await set('Pass', '30')
  expect(tried()).toEqual([[35, 30, 0]])
  expect(screen.queryByRole('alert')).toBeNull()
})

test('typed as fractions they are taken as percents on one press', async () => {
  const { set, user } = start()
  await set('Merit', '0.65')
  await set('Pass', '0.45')
  expect(tried()).toEqual([])
  await user.click(screen.getByRole('button', { name: 'Make it 65, 45, 0' }))
  expect(tried()).toEqual([[65, 45, 0]])
})

test('put back, what stands is there again and nothing was tried', async () => {
  const { set, user } = start()
  await set('Pass', '70')
  await user.click(screen.getByRole('button', { name: 'Put them back' }))
  expect([valueOf('Merit'), valueOf('Pass')]).toEqual(['60', '40'])
  expect(screen.queryByRole('alert')).toBeNull()
  expect(tried()).toEqual([])
})

test('with the set as adopted again there is no trial of it', async () => {
  const { set } = start()
  await set('Merit', '62')
  expect(tried()).toEqual([[62, 40, 0]])
  await set('Merit', '60')
  expect(tried()).toEqual([])
})

test('the next step is said to come before it is made: of a line either way, then onwards; not of limits that are no set', async () => {
  const { set } = start()
  const expected = () =>
    trial.expected.map((changes) => changes.map((c) => (c.kind === 'bound' ? c.boundaries.map((b) => b.from) : c.kind)))
  // The pass line is the chosen one.
  expect(expected()).toEqual([[[60, 40.5, 0]], [[60, 39.5, 0]]])
  await set('Pass', '40.2')
  expect(expected()).toContainEqual([[60, 40.4, 0]])
  await set('Pass', '59.9')
  expect(expected().flat(2)).not.toContainEqual(expect.arrayContaining([60.4]))
})

test('what is rescaled stands beside how it was marked', () => {
  trial.changes = [
    {
      kind: 'adjust',
      adjustment: {
        id: 'up',
        assessmentId: null,
        outOf: 100,
        sectionIds: null,
        method: { kind: 'add', by: 10 },
        on: true,
        neverLower: true,
        above: 'allow',
        step: null,
      },
    },
  ]
  start()
  // 75 and 50 as marked, 85 and 60 with ten more.
  const counts = (name: RegExp) =>
    Array.from(screen.getByRole('row', { name }).querySelectorAll('td.number'))
      .slice(0, 3)
      .map((c) => parseInt(c.textContent!, 10))
  expect(counts(/^everyone/)).toEqual([2, 0, 0])
  expect(counts(/^before it was rescaled/)).toEqual([1, 1, 0])
})
