import type { Adjustment } from '#core/rescale'
import type { Change } from '#core/trial'
import { smallState, smallTable } from '../../testing/small-course'
import { rescaleFigures } from './figures'

const table = smallTable([
  ['ada', 'paper', 20],
  ['bo', 'paper', 31],
  ['cy', 'paper', 12],
])
const adjustment = (id: string, by: number): Adjustment => ({
  id,
  assessmentId: 'paper',
  outOf: 40,
  method: { kind: 'add', by },
  sectionIds: null,
  step: null,
  neverLower: false,
  above: 'keep within',
  on: true,
})
const adjust = (id: string, by: number): Change => ({ kind: 'adjust', adjustment: adjustment(id, by) })

test('without a rescaling marks come out as they go in, and nothing is said to be rescaled', () => {
  const none = rescaleFigures(smallState(table), 'paper')!
  expect([none.before, none.after, none.rescaled]).toEqual([[20, 31, 12], [20, 31, 12], false])
})

test('one that is tried has the marks after the stack before it as they go in', () => {
  const adopted = smallTable(
    [
      ['ada', 'paper', 20],
      ['bo', 'paper', 31],
    ],
    [],
    { adjustments: [adjustment('first', 2)] },
  )
  const tried = rescaleFigures(smallState(adopted, [adjust('more', 3)]), 'paper')!
  expect([tried.before, tried.after, tried.rescaled]).toEqual([[22, 33], [25, 36], true])
  expect(tried.dots).toEqual([
    { x: 22, y: 25 },
    { x: 33, y: 36 },
  ])
  const [east] = tried.sections
  expect([east!.plainMean, east!.mean]).toEqual([25.5, 30.5])
})

test('who passes is counted before and after; of what none is named, the hardest one with enough marks is shown', () => {
  const tried = rescaleFigures(smallState(table, [adjust('more', 5)]), 'paper')!
  expect(tried.sections.map((s) => [s.plainPassed, s.passed])).toEqual([
    [2, 2],
    [0, 1],
  ])
  expect(rescaleFigures(smallState(table), null)!.subject.assessmentId).toBe('paper')
})
