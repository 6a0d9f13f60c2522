import fc from 'fast-check'
import { allocatePanels, ShareError } from '#core/share'

const scripts = (n: number, sections: number) => Array.from({ length: n }, (_, i) => ({ id: `s${i}`, sectionId: `x${i % sections}` }))
const markers = Array.from({ length: 9 }, (_, i) => ({ id: `m${i}`, ownSections: [`x${i}`] }))
const panels = [
  ['m0', 'm1', 'm2'],
  ['m3', 'm4', 'm5'],
  ['m6', 'm7', 'm8'],
]
const any = fc.record({
  n: fc.integer({ min: 1, max: 60 }),
  sections: fc.integer({ min: 1, max: 12 }),
  seed: fc.integer(),
  avoidOwnSection: fc.boolean(),
})

test('every script has one whole panel, the same for the same seed, loads within 1 where sections are no matter', () => {
  fc.assert(
    fc.property(any, ({ n, sections, ...rest }) => {
      const input = { scripts: scripts(n, sections), markers, panels, ...rest }
      const shared = allocatePanels(input)
      expect(allocatePanels(input)).toEqual(shared)
      const read = panels.map((p) => shared.allotments.filter((a) => a.markerId === p[0]).length)
      for (const s of input.scripts)
        expect(panels).toContainEqual(shared.allotments.filter((a) => a.scriptId === s.id).map((a) => a.markerId))
      expect(read.reduce((t, x) => t + x, 0)).toBe(n)
      if (!rest.avoidOwnSection) expect(Math.max(...read) - Math.min(...read)).toBeLessThanOrEqual(1)
      // With three panels that teach nothing in common, one is always free.
      else expect(shared.ownSection).toEqual([])
    }),
  )
})

test('what a panel began stays with it, and a reader from outside keeps what they read', () => {
  const kept = [
    { scriptId: 's0', markerId: 'm4' },
    { scriptId: 's1', markerId: 'other' },
  ]
  const { allotments } = allocatePanels({ scripts: scripts(6, 3), markers, panels, seed: 5, avoidOwnSection: true, kept })
  expect(
    allotments
      .filter((a) => a.scriptId === 's0')
      .map((a) => a.markerId)
      .sort(),
  ).toEqual(['m3', 'm4', 'm5'])
  expect(allotments.filter((a) => a.scriptId === 's1')).toHaveLength(4)
})

test('where every panel has somebody who teaches the section it is said who; what cannot be is refused in words', () => {
  const input = { scripts: scripts(4, 2), markers, seed: 1, avoidOwnSection: true }
  expect(allocatePanels({ ...input, panels: [['m0', 'm1']] }).ownSection).toHaveLength(4)
  expect(() => allocatePanels({ ...input, panels: [] })).toThrow(ShareError)
  expect(() => allocatePanels({ ...input, panels: [['m0'], []] })).toThrow('Panel 2 has no member.')
  expect(() => allocatePanels({ ...input, panels: [['m0', 'm0']] })).toThrow('Panel 1 has somebody twice.')
  expect(() => allocatePanels({ ...input, panels: [['stranger']] })).toThrow('Panel 1 has a member who does not mark here.')
})
