import { latestCells } from './latest-cells'

const cell = (studentId: string) => ({ studentId, assessmentId: 'a' })
const cells = (...ids: string[]) => ({ cells: ids.map(cell), plan: false })

test('cells written since a version, each once', () => {
  const latest = latestCells()
  latest.add('c', 5, [cell('p'), cell('q')])
  latest.add('c', 6, [cell('q')])
  latest.add('other', 7, [cell('z')])
  expect(latest.since('c', 4, 6)).toEqual(cells('p', 'q'))
  expect(latest.since('c', 5, 6)).toEqual(cells('q'))
  expect(latest.since('c', 6, 6)).toEqual(cells())
})

test('where anything else was written between, or the version is not known, that is said', () => {
  const latest = latestCells()
  latest.add('c', 5, [cell('p')])
  latest.add('c', 7, [cell('q')])
  expect(latest.since('c', 4, 7)).toBeNull()
  expect(latest.since('c', 5, 6)).toBeNull()
  expect(latest.since('c', 9, 7)).toBeNull()
  expect(latest.since('c', 1, 5)).toBeNull()
  for (let v = 8; v < 1100; v++) latest.add('c', v, [cell('r')])
  expect(latest.since('c', 20, 1099)).toBeNull()
  expect(latest.since('c', 1000, 1099)).toEqual(cells('r'))
})

test('a decision between them is said, and takes nothing from the cells', () => {
  const latest = latestCells()
  latest.add('c', 5, [cell('p')])
  latest.add('c', 6, [], true)
  expect(latest.since('c', 4, 6)).toEqual({ cells: [cell('p')], plan: true })
  expect(latest.since('c', 4, 5)).toEqual({ cells: [cell('p')], plan: false })
})
