import fc from 'fast-check'
import {
  allocate,
  joiningReadings,
  linkedGroups,
  moderationSample,
  ShareError,
  usualZone,
  type SampleRow,
  type ShareInput,
} from '#core/share'

const scripts = (n: number, sections = 8) => Array.from({ length: n }, (_, i) => ({ id: `s${i}`, sectionId: `x${i % sections}` }))
const markers = (n: number, capacity = (_: number) => 1) =>
  Array.from({ length: n }, (_, i) => ({ id: `m${i}`, ownSections: [`x${i}`], capacity: capacity(i) }))
const loads = (input: ShareInput) => {
  const n = new Map(input.markers.map((m) => [m.id, 0]))
  const shared = allocate(input)
  for (const a of shared.allotments) n.set(a.markerId, n.get(a.markerId)! + 1)
  return { shared, loads: [...n.values()] }
}

const anyInput = fc
  .record({
    n: fc.integer({ min: 1, max: 60 }),
    sections: fc.integer({ min: 1, max: 9 }),
    capacities: fc.array(fc.constantFrom(1, 1, 1, 2, 0.5, 3), { minLength: 2, maxLength: 9 }),
    readings: fc.integer({ min: 1, max: 3 }),
    seed: fc.integer(),
    avoidOwnSection: fc.boolean(),
  })
  .filter((x) => x.capacities.length >= x.readings)
  .map(({ n, sections, capacities, ...rest }): ShareInput => ({
    scripts: scripts(n, sections),
    markers: markers(capacities.length, (i) => capacities[i]!),
    ...rest,
  }))

test('each script gets its readings by different markers; loads lie within 1 of their share where nobody would get a script twice', () => {
  fc.assert(
    fc.property(anyInput, (input) => {
      const { shared, loads: given } = loads(input)
      for (const s of input.scripts) {
        const readers = shared.allotments.filter((a) => a.scriptId === s.id).map((a) => a.markerId)
        expect(new Set(readers).size).toBe(input.readings)
      }
      const sum = input.markers.reduce((t, m) => t + m.capacity, 0)
      const share = input.markers.map((m) => (input.scripts.length * input.readings * m.capacity) / sum)
      if (share.every((x) => x <= input.scripts.length)) given.forEach((x, i) => expect(Math.abs(x - share[i]!)).toBeLessThan(1 + 1e-9))
    }),
  )
})

test('the same seed gives the same; own sections are left alone where that can be, and named where it cannot', () => {
  fc.assert(
    fc.property(anyInput, (input) => {
      const shared = allocate(input)
      expect(allocate(input)).toEqual(shared)
      const own = (a: { scriptId: string; markerId: string }) =>
        input.markers.find((m) => m.id === a.markerId)!.ownSections.includes(input.scripts.find((s) => s.id === a.scriptId)!.sectionId)
      if (input.avoidOwnSection) expect(shared.ownSection).toEqual(shared.allotments.filter(own))
      else expect(shared.ownSection).toEqual([])
    }),
  )
  expect(allocate({ scripts: scripts(236), markers: markers(11), readings: 2, seed: 3, avoidOwnSection: true }).ownSection).toEqual([])
})

test('two readings of 236 scripts by 11 markers: one linked whole, pairs about equally often', () => {
  const { allotments, groups } = allocate({ scripts: scripts(236), markers: markers(11), readings: 2, seed: 1, avoidOwnSection: true })
  expect(groups).toHaveLength(1)
  const pairs = new Map<string, number>()
  for (const s of scripts(236)) {
    const [a, b] = allotments
      .filter((x) => x.scriptId === s.id)
      .map((x) => x.markerId)
      .sort()
    pairs.set(`${a} ${b}`, (pairs.get(`${a} ${b}`) ?? 0) + 1)
  }
  // 236 scripts over 55 pairs: 4.3 each.
  expect(pairs.size).toBeGreaterThanOrEqual(50)
  expect(Math.max(...pairs.values())).toBeLessThanOrEqual(8)
})

test('what is begun is kept and counts; who has left keeps what they read', () => {
  const kept = [
    { scriptId: 's0', markerId: 'm0' },
    { scriptId: 's1', markerId: 'm0' },
    { scriptId: 's2', markerId: 'gone' },
  ]
  const { shared, loads: given } = loads({ scripts: scripts(12), markers: markers(3), readings: 1, seed: 5, avoidOwnSection: false, kept })
  for (const k of kept.slice(0, 2)) expect(shared.allotments).toContainEqual(k)
  expect(shared.allotments.filter((a) => a.scriptId === 's2')).toEqual([])
  expect(given.reduce((a, b) => a + b)).toBe(11)
  expect(Math.max(...given) - Math.min(...given)).toBeLessThanOrEqual(1)
})

test('too few markers, or none with time, is refused with what to change', () => {
  const input = { scripts: scripts(3), markers: markers(2), readings: 3, seed: 1, avoidOwnSection: false }
  expect(() => allocate(input)).toThrow(ShareError)
  expect(() => allocate({ ...input, readings: 0 })).toThrow('one reading at least')
  expect(() => allocate({ ...input, readings: 1, markers: markers(2, () => 0) })).toThrow('0 have time for it')
})

test('groups that share no script, and the fewest readings that would join them', () => {
  const a = [
    { scriptId: '1', markerId: 'p' },
    { scriptId: '1', markerId: 'q' },
    { scriptId: '2', markerId: 'r' },
    { scriptId: '2', markerId: 't' },
  ]
  const groups = linkedGroups(['p', 'q', 'r', 't', 'alone'], a)
  expect(groups).toEqual([['p', 'q'], ['r', 't'], ['alone']])
  const more = joiningReadings(groups, a)
  expect(more).toHaveLength(2)
  expect(linkedGroups(['p', 'q', 'r', 't', 'alone'], [...a, ...more])).toHaveLength(1)
})

describe('a sample for second reading', () => {
  const rows = fc
    .array(
      fc.record({
        sectionId: fc.constantFrom('a', 'b', 'c'),
        mark: fc.integer({ min: 0, max: 100 }),
        distance: fc.option(fc.integer({ min: 0, max: 20 })),
      }),
      { maxLength: 60 },
    )
    .map((list) => list.map((r, i): SampleRow => ({ ...r, scriptId: `s${i}`, fails: r.mark < 40 })))

  test('has every fail and all near a boundary, and is as large as asked', () => {
    fc.assert(
      fc.property(
        rows,
        fc.double({ min: 0, max: 1, noNaN: true }),
        fc.nat(20),
        fc.nat(3),
        fc.integer(),
        (all, share, least, zone, seed) => {
          const sample = moderationSample(all, { share, least, zone, seed })
          const ids = new Set(sample.map((s) => s.scriptId))
          const must = all.filter((r) => r.fails || (r.distance !== null && r.distance <= zone))
          for (const r of must) expect(ids.has(r.scriptId)).toBe(true)
          expect(ids.size).toBe(Math.min(all.length, Math.max(least, Math.ceil(share * all.length - 1e-9), must.length)))
          expect(moderationSample(all, { share, least, zone, seed })).toEqual(sample)
        },
      ),
    )
  })

  test('is spread over sections and over the marks', () => {
    const all = Array.from({ length: 80 }, (_, i): SampleRow => ({
      scriptId: `s${i}`,
      sectionId: `x${i % 4}`,
      mark: 41 + i / 2,
      fails: false,
      distance: null,
    }))
    const sample = new Set(moderationSample(all, { share: 0.2, least: 0, zone: 0, seed: 9 }).map((s) => s.scriptId))
    for (const section of ['x0', 'x1', 'x2', 'x3'])
      expect(all.filter((r) => r.sectionId === section && sample.has(r.scriptId))).toHaveLength(4)
    for (const [from, to] of [
      [41, 54],
      [54, 68],
      [68, 82],
    ] as const)
      expect(all.some((r) => sample.has(r.scriptId) && r.mark >= from && r.mark < to)).toBe(true)
  })
})

test('the zone follows how far a reading is off, and never takes most of what lies between two lines', () => {
  const lines = (outOf: number) => [50, 60, 70, 80].map((p) => (p / 100) * outOf)
  expect(usualZone(100, lines(100), 0.8)).toBe(0.5)
  expect(usualZone(100, lines(100), 7)).toBe(1)
  expect(usualZone(200, lines(200), null)).toBe(2.5)
  // Out of 10 a mark on either side would be everybody.
  expect(usualZone(10, lines(10), 0.9)).toBe(0.1)
  expect(usualZone(30, [12], null)).toBe(0.5)
  expect(usualZone(10, [4], null)).toBe(0.2)
})
