import fc from 'fast-check'
import { alphaInterval, krippendorffAlpha, type AlphaLevel } from './krippendorff-alpha'

/** Four observers, twelve units, gaps: Krippendorff 2011, part C. */
const OBSERVERS = [
  [1, 2, 3, 3, 2, 1, 4, 1, 2, null, null, null],
  [1, 2, 3, 3, 2, 2, 4, 1, 2, 5, null, 3],
  [null, 3, 3, 3, 2, 3, 4, 2, 2, 5, 1, null],
  [1, 2, 3, 3, 2, 4, 4, 1, 2, 5, 1, null],
]
const UNITS = OBSERVERS[0]!.map((_, u) => OBSERVERS.flatMap((o) => o[u] ?? []))

test.each<[AlphaLevel, number]>([
  ['nominal', 0.743],
  ['ordinal', 0.815],
  ['interval', 0.849],
])('%s alpha as published', (level, alpha) =>
  expect(krippendorffAlpha(UNITS, level)).toMatchObject({ units: 11, values: 40, alpha: expect.closeTo(alpha, 3) }),
)

test('two observers and two values, without gaps, as published (part A)', () => {
  const a = [0, 1, 0, 0, 0, 0, 0, 0, 1, 0]
  const b = [1, 1, 1, 0, 0, 1, 0, 0, 0, 0]
  expect(
    krippendorffAlpha(
      a.map((x, i) => [x, b[i]!]),
      'nominal',
    ).alpha,
  ).toBeCloseTo(0.095, 3)
})

test('where nothing can be paired, or nothing differs, there is none', () => {
  expect(krippendorffAlpha([[1], [2], []], 'interval')).toEqual({ alpha: null, units: 0, values: 0 })
  expect(
    krippendorffAlpha(
      [
        [3, 3],
        [3, 3, 3],
      ],
      'nominal',
    ),
  ).toEqual({ alpha: null, units: 2, values: 5 })
  expect(alphaInterval([[1, 2]], 'interval', { seed: 1, draws: 10 })).toBeNull()
})

const units = fc.array(fc.array(fc.integer({ min: 0, max: 6 }), { maxLength: 4 }), { minLength: 2, maxLength: 12 })

test('markers who agree throughout come to 1; who said what, and in which order units come, changes nothing', () => {
  fc.assert(
    fc.property(units, fc.constantFrom<AlphaLevel>('nominal', 'ordinal', 'interval'), (all, level) => {
      const { alpha } = krippendorffAlpha(all, level)
      const turned = krippendorffAlpha(
        [...all].reverse().map((u) => [...u].reverse()),
        level,
      ).alpha
      if (alpha === null) expect(turned).toBeNull()
      else expect(turned).toBeCloseTo(alpha, 9)
      const same = krippendorffAlpha(
        all.map((u) => u.map(() => u[0] ?? 0)),
        level,
      ).alpha
      expect(same === null || Math.abs(same - 1) < 1e-12).toBe(true)
    }),
  )
})

test('another zero or another unit of marks leaves interval alpha as it is; any rising relabelling the ordinal one', () => {
  fc.assert(
    fc.property(units, (all) => {
      const moved = (f: (x: number) => number) => all.map((u) => u.map(f))
      const interval = krippendorffAlpha(all, 'interval').alpha
      const ordinal = krippendorffAlpha(all, 'ordinal').alpha
      const linear = krippendorffAlpha(
        moved((x) => 2.5 * x + 7),
        'interval',
      ).alpha
      const bent = krippendorffAlpha(
        moved((x) => x ** 3),
        'ordinal',
      ).alpha
      expect([linear === null, bent === null]).toEqual([interval === null, ordinal === null])
      if (interval !== null) expect(linear).toBeCloseTo(interval, 9)
      if (ordinal !== null) expect(bent).toBeCloseTo(ordinal, 9)
    }),
  )
})

test('the interval lies about alpha, is the same for the same seed, and wider where fewer units were read', () => {
  const draw = (all: number[][]) => alphaInterval(all, 'interval', { seed: 7, draws: 400 })!
  const [low, high] = draw(UNITS)
  const { alpha } = krippendorffAlpha(UNITS, 'interval')
  expect(low <= alpha! && alpha! <= high).toBe(true)
  expect(draw(UNITS)).toEqual([low, high])
  const [l, h] = draw([...UNITS, ...UNITS, ...UNITS])
  expect(h - l).toBeLessThan(high - low)
})
