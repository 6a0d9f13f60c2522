import type { Adjustment } from '#core/rescale'
import type { Change } from '#core/trial'
import { smallState, smallTable } from '../../testing/small-course'
import { copiesOf, rescaleFigures } from './figures'

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

const off = (id: string): Change => ({ kind: 'switch', adjustmentId: id, on: false })

test('what is done here is told apart from the rest of the trial, and beside an untouched assessment nothing is', () => {
  const elsewhere: Change = {
    kind: 'bound',
    boundaries: [
      { grade: 'Pass', from: 45 },
      { grade: 'Merit', from: 60 },
      { grade: 'Refer', from: 0 },
    ],
  }
  const untouched = rescaleFigures(smallState(table, [elsewhere]), 'paper')!
  expect([untouched.change, untouched.rest?.percents]).toEqual([null, 0])
  const both = rescaleFigures(smallState(table, [elsewhere, adjust('more', 4)]), 'paper')!
  expect([both.change!.percents, both.rest!.percents]).toEqual([3, 0])
  const switched = smallState({ ...table, adjustments: [adjustment('first', 2)] }, [off('first')])
  expect(rescaleFigures(switched, 'paper')!.change!.percents).toBe(3)
})

test('of a stack any one can be looked at: marks as they go into it, with the map of it alone', () => {
  const stacked = { ...table, adjustments: [adjustment('first', 2), adjustment('second', 3)] }
  const first = rescaleFigures(smallState(stacked), 'paper', 'first')!
  expect([first.chosenId, first.before, first.after]).toEqual(['first', [20, 31, 12], [22, 33, 14]])
  expect(first.line!.at(0)).toEqual({ x: 0, y: 2 })
  const second = rescaleFigures(smallState(stacked), 'paper', 'second')!
  expect([second.before, second.after]).toEqual([
    [22, 33, 14],
    [25, 36, 17],
  ])
  const whole = rescaleFigures(smallState(stacked), 'paper')!
  expect([whole.chosenId, whole.before, whole.after]).toEqual([null, [20, 31, 12], [25, 36, 17]])
})

test('marks that meet at the top are counted, and a map that was fixed by other marks says so', () => {
  const top: Adjustment = { ...adjustment('top', 0), method: { kind: 'topTo', to: 40, highest: '28' } }
  const figures = rescaleFigures(smallState({ ...table, adjustments: [top] }), 'paper', 'top')!
  // 31 was not there when it was fixed at 28: with 12 more it is kept at 40.
  expect([figures.after, figures.ends]).toEqual([[32, 40, 24], { top: 1, bottom: 0 }])
  const [item] = figures.stack
  expect(item!.anew!.words).toBe('The best is now 31: it would be +9.')
  expect(item!.anew!.adjustment.method).toEqual({ kind: 'topTo', to: 40, highest: '31' })
})

test('matched to the others, both groups are there with how sure their difference is', () => {
  const match: Adjustment = {
    ...adjustment('match', 0),
    sectionIds: ['east'],
    method: { kind: 'matchMeanSd', from: { mean: 25.5, sd: 7.78 }, to: { mean: 12, sd: 3 }, like: { group: 'others' } },
  }
  const figures = rescaleFigures(smallState(table, [{ kind: 'adjust', adjustment: match }]), 'paper')!
  expect([figures.before, figures.like, figures.bySection]).toEqual([[20, 31], [12], { east: [20, 31], west: [12] }])
  expect(figures.apart!.difference).toBe(13.5)
})

test('the course percent: as it goes in, the highest of it as a fraction, and what it becomes', () => {
  const whole = smallTable([
    ['ada', 'paper', 20],
    ['ada', 'essay', 10],
    ['bo', 'paper', 40],
    ['bo', 'essay', 19],
  ])
  const up: Change = { kind: 'adjust', adjustment: { ...adjustment('up', 2.5), assessmentId: null, outOf: 100, above: 'allow' } }
  const figures = rescaleFigures(smallState(whole, [up]), 'total')!
  expect([figures.before, figures.after, figures.highest]).toEqual([[50, 97.5], [52.5, 100], '195/2'])
  expect(figures.sections.map((s) => [s.plainMean, s.mean, s.n])).toEqual([
    [73.75, 76.25, 2],
    [null, null, 0],
  ])
})

test('copied, an adjustment is on the scale of the other assessment and fixed by its marks', () => {
  const both = smallTable([
    ['ada', 'paper', 20],
    ['ada', 'essay', 15],
    ['bo', 'essay', 11],
  ])
  const top: Adjustment = { ...adjustment('top', 0), method: { kind: 'topTo', to: 36, highest: '20' } }
  const state = smallState({ ...both, adjustments: [top, adjustment('more', 4)] })
  expect(copiesOf(state, 'top', ['essay'])).toMatchObject([
    { assessmentId: 'essay', outOf: 20, method: { kind: 'topTo', to: 18, highest: '15' } },
  ])
  expect(copiesOf(state, 'more', ['essay'])[0]!.method).toEqual({ kind: 'add', by: 2 })
})

test('readings that came since criteria were counted otherwise are told', () => {
  const read = smallTable(
    [
      ['ada', 'essay', null],
      ['bo', 'essay', null],
    ],
    [
      ['ada', 'essay', 'mo', 12],
      ['ada', 'essay', 'ny', 16],
      ['bo', 'essay', 'mo', 6],
    ],
  )
  const without: Adjustment = {
    ...adjustment('w', 0),
    assessmentId: 'essay',
    outOf: 20,
    method: { kind: 'without', criterionIds: ['k'], scriptIds: ['essay:ada'], markerIds: ['mo'], marks: [14] },
  }
  expect(rescaleFigures(smallState({ ...read, adjustments: [without] }), 'essay')!.stack.map((s) => s.uncounted)).toEqual([2])
})
