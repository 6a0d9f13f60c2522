import { tuningOf, type ExemplarReading } from '#core/agree'

const agreed = [
  { exemplarId: 'x1', picks: { a: 2, b: 5 }, mark: 20 },
  { exemplarId: 'x2', picks: { a: 4, b: 0 }, mark: 12 },
]
const bandOf = (criterionId: string, points: number) => (criterionId === 'a' ? [0, 2, 4] : [0, 5, 10]).indexOf(points)
const read = (markerId: string, exemplarId: string, a: number, b: number, mark: number): ExemplarReading => ({
  markerId,
  exemplarId,
  picks: { a, b },
  mark,
})
const figures = (readings: ExemplarReading[]) => tuningOf(agreed, readings, { tolerance: 2, bandOf })

test('one who gives what was agreed is level, and agrees in all', () => {
  const { markers } = figures([read('m', 'x1', 2, 5, 20), read('m', 'x2', 4, 0, 12)])
  expect(markers[0]).toMatchObject({ read: 2, lean: 0, interval: null, criteria: { a: 0, b: 0 }, kappa: { kappa: 1 } })
  expect(markers[0]!.agreement).toMatchObject({ exact: 1, within: 1 })
})

test('lean, its interval and the difference per criterion', () => {
  const { markers } = figures([read('m', 'x1', 4, 10, 23), read('m', 'x2', 4, 5, 13)])
  const [m] = markers
  expect(m!.lean).toBe(2)
  // sd of 3 and 1 is √2; t(0.975, 1) = 12.7062: half the width is 12.7062.
  expect(m!.interval![0]).toBeCloseTo(2 - 12.7062, 3)
  expect(m!.criteria).toEqual({ a: 1, b: 5 })
  expect(m!.agreement).toMatchObject({ exact: 0, within: 0.5 })
})

test('one reading alone has a lean and no interval; nothing read, no row', () => {
  const { markers } = figures([read('m', 'x2', 2, 0, 9)])
  expect(markers).toHaveLength(1)
  expect(markers[0]).toMatchObject({ read: 1, lean: -3, interval: null })
})

test('the correlation of all takes those who read all, and needs two of them', () => {
  expect(figures([read('m', 'x1', 2, 5, 20), read('m', 'x2', 4, 0, 12)]).together[0]!.reason).toMatch(/two scripts and two markers/)
  const both = figures([
    read('m', 'x1', 2, 5, 20),
    read('m', 'x2', 4, 0, 12),
    read('n', 'x1', 2, 5, 20),
    read('n', 'x2', 4, 0, 12),
    read('o', 'x1', 0, 0, 1),
  ])
  expect(both.together.find((i) => i.form === '(2,1)')!.value).toBe(1)
  expect(both.markers).toHaveLength(3)
})

test('readings of what is no exemplar have no part; criteria without levels have none in kappa', () => {
  const { markers } = tuningOf(agreed, [read('m', 'gone', 0, 0, 0), read('m', 'x1', 2, 6, 21)], { tolerance: 2, bandOf: () => null })
  expect(markers[0]).toMatchObject({ read: 1, lean: 1, kappa: { kappa: null, n: 0 }, criteria: { a: 0, b: 1 } })
})

test('who takes off more than was agreed is severe, not generous', () => {
  const { markers } = tuningOf(agreed, [read('m', 'x1', 2, 10, 15)], { tolerance: 2, takesOff: (id) => id === 'b', bandOf })
  expect(markers[0]!.criteria).toEqual({ a: 0, b: -5 })
})
