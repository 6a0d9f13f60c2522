import fc from 'fast-check'
import { drawCodeNames } from './code-names'

const SEED = 7
/** A plain generator of its own, so that a draw can be made again. */
const seeded = (seed: number) => () => (seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647

test('as many are drawn as are asked for, no two the same and none that somebody has', () =>
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 700 }), fc.integer({ min: 1, max: 1000 }), (count, seed) => {
      const taken = drawCodeNames(40, new Set(), seeded(SEED)).map((n) => n.toUpperCase())
      const drawn = drawCodeNames(count, new Set(taken), seeded(seed))
      expect(drawn).toHaveLength(count)
      expect(new Set([...drawn, ...taken.map((n) => n.toLowerCase())]).size).toBe(count + 40)
    }),
    { numRuns: 60 },
  ))

test('numbers come only where all plain ones are taken; the same draw gives the same names', () => {
  expect(drawCodeNames(200, new Set(), seeded(SEED)).filter((n) => /\d/.test(n))).toEqual([])
  expect(drawCodeNames(600, new Set(), seeded(SEED)).some((n) => n.endsWith(' 2'))).toBe(true)
  expect(drawCodeNames(9, new Set(), seeded(SEED))).toEqual(drawCodeNames(9, new Set(), seeded(SEED)))
})
