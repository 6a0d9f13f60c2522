import type { Adjustment } from '#core/rescale'
import { smallState, smallTable } from '../../../testing/small-course'
import { countsAs } from './counts-as'

const more = (by: number, on = true): Adjustment => ({
  id: `more ${by}`,
  on,
  assessmentId: 'paper',
  sectionIds: ['east'],
  method: { kind: 'add', by },
  outOf: 40,
  step: null,
  neverLower: false,
  above: 'keep within',
})
const table = (adjustments: Adjustment[]) =>
  smallTable(
    [
      ['ada', 'paper', 20],
      ['bo', 'paper', 40],
      ['cy', 'paper', 30],
      ['ada', 'essay', 12],
      ['di', 'paper', null],
    ],
    [],
    { adjustments },
  )
const found = (adjustments: Adjustment[]) => [...countsAs(smallState(table(adjustments)))].map(([a, of]) => [a, [...of]])

test('marks that count as another than they were marked, and no others: not of another section, not at the ceiling, not what is not there', () => {
  expect(found([more(3)])).toEqual([['paper', [['ada', 23]]]])
  expect(found([])).toEqual([])
  expect(found([more(3, false)])).toEqual([])
})

test('what is only tried does not count', () => {
  const state = smallState(table([]), [{ kind: 'adjust', adjustment: more(3) }])
  expect(countsAs(state).size).toBe(0)
})
