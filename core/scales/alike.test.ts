import fc from 'fast-check'
import { areAlike, changeAlike, makeAlike, resizeAlike } from './alike'
import { rubricMaximum, type Criterion } from './rubric'

const criterion = (id: string, points: number[], more: Partial<Criterion> = {}): Criterion => ({
  id,
  title: id,
  ranges: false,
  penalty: false,
  levels: points.map((p, i) => ({ points: p, words: `${id}${i}` })),
  ...more,
})
const aim = criterion('aim', [0, 2, 4])
const map = criterion('map', [0, 2, 4])
const late = criterion('late', [0, 3], { penalty: true })
const wordsOf = (c: Criterion) => c.levels.map((l) => l.words)
const pointsOf = (c: Criterion) => c.levels.map((l) => l.points)

test('all take the levels of the one with most, and no words are lost; a penalty stands apart', () => {
  const short = criterion('map', [0, 10])
  const [a, m, l] = makeAlike([aim, short, late]) as [Criterion, Criterion, Criterion]
  expect(pointsOf(m)).toEqual([0, 2, 4])
  expect(wordsOf(m)).toEqual(['map0', 'map1', ''])
  expect(a).toEqual(aim)
  expect(l).toBe(late)
  expect([areAlike([aim, short]), areAlike([a, m, l])]).toEqual([false, true])
})

test('a level taken away in one is taken away in all, each losing its own words of it', () => {
  const [a, m] = changeAlike([aim, map, late], { ...aim, levels: [aim.levels[0]!, aim.levels[2]!] }) as [Criterion, Criterion]
  expect([wordsOf(a), wordsOf(m)]).toEqual([
    ['aim0', 'aim2'],
    ['map0', 'map2'],
  ])
})

test('a level added or moved in one is so in all; words are changed in one alone', () => {
  const added = changeAlike([aim, map], { ...aim, levels: [...aim.levels, { points: 6, words: 'new' }] })
  expect(added.map(pointsOf)).toEqual([
    [0, 2, 4, 6],
    [0, 2, 4, 6],
  ])
  expect(wordsOf(added[1]!)).toEqual(['map0', 'map1', 'map2', ''])
  const moved = changeAlike([aim, map], { ...map, levels: map.levels.map((l, i) => (i === 1 ? { ...l, points: 3, words: 'better' } : l)) })
  expect(moved.map(pointsOf)).toEqual([
    [0, 3, 4],
    [0, 3, 4],
  ])
  expect(wordsOf(moved[0]!)).toEqual(['aim0', 'aim1', 'aim2'])
})

test('ranges are given and taken together', () => {
  const ranged = { ...aim, ranges: true, levels: aim.levels.map((l) => ({ ...l, to: l.points + 1 })) }
  const both = changeAlike([aim, map], ranged)
  expect(both[1]!.levels[1]).toEqual({ points: 2, to: 3, words: 'map1' })
  const plain = changeAlike(both, { ...both[0]!, ranges: false, levels: aim.levels.map((l) => ({ ...l })) })
  expect(plain[1]).toEqual(map)
})

test('what was a penalty becomes like the others; what becomes one leaves them as they are', () => {
  const joined = changeAlike([aim, late], { ...late, penalty: false })
  expect(joined[0]).toBe(aim)
  expect([pointsOf(joined[1]!), wordsOf(joined[1]!)]).toEqual([
    [0, 2, 4],
    ['late0', 'late1', ''],
  ])
  expect(changeAlike([aim, map], { ...map, penalty: true })[0]).toBe(aim)
})

test('of any criteria, all are alike afterwards and stay so with whatever is changed', () => {
  const points = fc.uniqueArray(fc.integer({ min: 0, max: 40 }), { minLength: 1, maxLength: 6 }).map((p) => p.sort((a, b) => a - b))
  fc.assert(
    fc.property(fc.array(points, { minLength: 1, maxLength: 5 }), fc.nat(), points, (all, which, next) => {
      const criteria = makeAlike(all.map((p, i) => criterion(`c${i}`, p)))
      expect(areAlike(criteria)).toBe(true)
      const one = criteria[which % criteria.length]!
      expect(areAlike(changeAlike(criteria, criterion(one.id, next)))).toBe(true)
    }),
  )
})

test('another maximum for the whole is shared evenly', () => {
  const resized = resizeAlike([aim, map, late], 12, 0.5)
  expect(resized.map(pointsOf)).toEqual([
    [0, 3, 6],
    [0, 3, 6],
    [0, 3],
  ])
  expect(rubricMaximum({ criteria: resized })).toBe(12)
})
