import type { Adjustment } from '#core/rescale'
import { smallState, smallTable } from '../../../testing/small-course'
import { WHOLE_COURSE } from '../../../parts/of-what'
import { compareYears } from './figures'

const MARKS: Parameters<typeof smallTable>[0] = [
  ['ada', 'paper', 30],
  ['ada', 'essay', 14],
  ['bo', 'paper', 20],
  ['bo', 'essay', null],
]
const top: Adjustment = {
  id: 'x',
  assessmentId: 'paper',
  outOf: 40,
  sectionIds: null,
  method: { kind: 'topTo', to: 40 },
  on: true,
  neverLower: false,
  above: 'keep within',
  step: null,
}
const year = (term: string, adjustments: Adjustment[] = []) => {
  const table = smallTable(MARKS, [], { adjustments })
  return smallState({ ...table, head: { ...table.head, id: term, term } })
}
const odd = (subject: string, then = year('before', [top])) => compareYears(year('now'), [then], subject).odd

test('it is said where an earlier year is shown as rescaled', () => {
  const rescaled = 'Figures of before are as rescaled, not as marked.'
  expect(odd('paper')).toEqual([rescaled])
  expect(odd('essay')).toEqual([])
  expect(odd('paper', year('before', [{ ...top, on: false }]))).toEqual([])
  expect(odd(WHOLE_COURSE)).toContain(rescaled)
})

test('years can be compared as they were marked, or as they count', () => {
  const means = (asMarked: boolean) => {
    const compared = compareYears(year('now'), [year('before', [top])], 'paper', asMarked)
    return [compared.rescaled, ...compared.years.map((y) => y.figures.mean), ...compared.odd]
  }
  expect(means(false)).toEqual([true, 25, 35, 'Figures of before are as rescaled, not as marked.'])
  expect(means(true)).toEqual([true, 25, 25])
  expect(compareYears(year('now'), [year('before')], 'paper').rescaled).toBe(false)
})

test('it is said how many of an earlier year have no final grade and are in its figures all the same', () => {
  expect(odd(WHOLE_COURSE, year('before'))).toEqual(['1 of 2 in before have no final grade: their percent so far is in its figures.'])
  expect(odd('paper', year('before'))).toEqual([])
})
