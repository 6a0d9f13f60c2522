import type { AdjustmentMethod } from '#core/rescale'
import { tickStep } from '../../parts/ticks'

export type Kind = AdjustmentMethod['kind']

export const METHODS: { kind: Kind; words: string; says: string }[] = [
  { kind: 'add', words: 'add the same', says: 'Everyone gets the same marks more (or fewer).' },
  { kind: 'multiply', words: 'multiply', says: 'Every mark is multiplied by the same number.' },
  { kind: 'topTo', words: 'top to', says: 'The highest mark is brought to a value, and everyone moves with it.' },
  { kind: 'line', words: 'two-point line', says: 'Two marks are given new values; the others lie on the line through them.' },
  { kind: 'curve', words: 'pulled points', says: 'Pull the points: marks between them follow.' },
]

/** A method that changes nothing yet, to start pulling from. */
export function startMethod(kind: Kind, outOf: number): AdjustmentMethod {
  switch (kind) {
    case 'add':
      return { kind, by: 0 }
    case 'multiply':
      return { kind, by: 1 }
    case 'topTo':
      return { kind, to: outOf }
    case 'line':
      return { kind, from: [0, 0], to: [outOf, outOf] }
    case 'curve': {
      const step = outOf >= 20 ? 1 : tickStep(outOf) / 2
      const places = [0, 0.25, 0.5, 0.75, 1].map((p) => Math.round((outOf * p) / step) * step)
      return { kind, points: places.map((x) => [x, x]) }
    }
  }
}

/** The points of a method that can be pulled, as mark → mark; null for a method that has none. */
export function pullPoints(method: AdjustmentMethod): [number, number][] | null {
  return method.kind === 'curve' ? method.points : method.kind === 'line' ? [method.from, method.to] : null
}

export function withPoints(method: AdjustmentMethod, points: [number, number][]): AdjustmentMethod {
  return method.kind === 'line' ? { ...method, from: points[0]!, to: points[1]! } : { kind: 'curve', points }
}

/** The points with one moved, kept in order: between its neighbours across, and never past them up or down. */
export function movePoint(points: [number, number][], at: number, to: [number, number], outOf: number, grain: number): [number, number][] {
  const before = points[at - 1]
  const after = points[at + 1]
  const snap = (v: number) => Number((Math.round(v / grain) * grain).toFixed(3))
  const x = Math.min(after ? after[0] - grain : outOf, Math.max(before ? before[0] + grain : 0, snap(to[0])))
  const y = Math.min(after ? after[1] : outOf, Math.max(before ? before[1] : 0, snap(to[1])))
  return points.map((p, i) => (i === at ? [Number(x.toFixed(3)), y] : p))
}
