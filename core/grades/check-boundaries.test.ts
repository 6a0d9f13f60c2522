import { checkBoundaries, gradeCounts } from './check-boundaries'

const set = (...rows: [string, number][]) => rows.map(([grade, from]) => ({ grade, from }))

test('a good set has no finding', () => {
  expect(checkBoundaries(set(['A', 80], ['B', 60.5], ['C', 0]))).toEqual([])
})

test.each([
  ['out of order', set(['A', 50], ['B', 60], ['C', 0]), 1, 'order', /B begins at 60, above A at 50/],
  ['two the same', set(['A', 60], ['B', 60], ['C', 0]), 1, 'order', /nobody could get it/],
  ['the lowest above 0', set(['A', 60], ['B', 40]), 1, 'lowest', /must begin at 0/],
  ['a name twice', set(['A', 60], ['a ', 0]), 1, 'double name', /already stands in row 1/],
  ['no name', set(['', 60], ['B', 0]), 0, 'name', /Row 1 has no grade name/],
  ['no number', set(['A', NaN], ['B', 0]), 0, 'number', /must be a number/],
  ['outside', set(['A', 101], ['B', 0]), 0, 'range', /outside 0 to 100/],
] as const)('%s is named with its row', (_, boundaries, row, kind, words) => {
  const finding = checkBoundaries([...boundaries]).find((f) => f.kind === kind)
  expect(finding).toMatchObject({ row })
  expect(finding!.message).toMatch(words)
})

test('percents above 100 may have limits above 100', () => {
  expect(checkBoundaries(set(['A', 101], ['B', 0]), 'allow')).toEqual([])
})

test('a set typed as fractions is recognised and the hundredfold offered', () => {
  const [finding] = checkBoundaries(set(['A', 0.895], ['B', 0.7], ['C', 0]))
  expect(finding).toMatchObject({ kind: 'fractions', row: null, fix: set(['A', 89.5], ['B', 70], ['C', 0]) })
})

test.each([
  [set(['A', 0.895], ['B', 70], ['C', 0]), set(['A', 89.5], ['B', 70], ['C', 0])],
  [set(['A', 85], ['B', 0.7], ['C', 60], ['D', 0]), set(['A', 85], ['B', 70], ['C', 60], ['D', 0])],
])('typed one after another, fractions beside percents are recognised in any order', (boundaries, fix) => {
  expect(checkBoundaries(boundaries)[0]).toMatchObject({ kind: 'fractions', fix })
})
test('a limit at or below 1 that is in order may be meant', () => {
  expect(checkBoundaries(set(['A', 70], ['B', 1], ['C', 0]))).toEqual([])
})

test('grades are counted in boundary order with zeros shown, and nobody without a grade', () => {
  const students = ['A', 'C', 'A', null].map((grade) => ({ grade })) as Parameters<typeof gradeCounts>[0]['students']
  expect(gradeCounts({ students, boundaries: set(['A', 80], ['B', 60], ['C', 0]) })).toEqual([
    { grade: 'A', count: 2, percent: 67 },
    { grade: 'B', count: 0, percent: 0 },
    { grade: 'C', count: 1, percent: 33 },
  ])
})
