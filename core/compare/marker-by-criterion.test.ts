import { markerByCriterion } from './marker-by-criterion'

test('a marker who is severe in one criterion alone is found there, and not in the other', () => {
  const rows = Array.from({ length: 20 }, (_, s) => s).flatMap((s) =>
    [s % 3, (s + 1) % 3].flatMap((m) =>
      [0, 1].map((k) => ({ s, m, k, mark: 6 + (s % 5) * 0.5 + (m === 1 && k === 0 ? -2 : 0) + ((s * 3 + m + k) % 4) * 0.05 })),
    ),
  )
  const column = (of: (row: (typeof rows)[number]) => number) => rows.map(of)
  const [first, second, none] = markerByCriterion({
    script: column((r) => r.s),
    marker: column((r) => r.m),
    mark: column((r) => r.mark),
    criterion: column((r) => r.k),
    scripts: 20,
    markers: 3,
    criteria: 3,
  })
  expect(first!.markers[1]!.effect).toBeCloseTo(-2 * (2 / 3), 1)
  expect(first!.markers[1]!.interval![1]).toBeLessThan(0)
  expect(Math.abs(second!.markers[1]!.effect!)).toBeLessThan(0.1)
  expect(none).toBeNull()
})
