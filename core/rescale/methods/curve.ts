import { compare, minus, over, plus, times } from '../../grades/rational'
import { AdjustmentError, finite, type MarkMap, type MarkMethod, pointsOnScale } from './method'

export interface Curve {
  kind: 'curve'
  /** Marks and what they become, from low to high. */
  points: [number, number][]
}

/** Where the points stand at first, along the range. */
const SHARES = [0, 0.25, 0.5, 0.75, 1]

export const curve: MarkMethod<Curve> = {
  acts: 'marks',
  title: 'pulled points',
  says: 'Pull the points: marks between them follow.',
  assumes: 'That you can say for each stretch of marks what it is worth.',
  notWhen: 'A plain rule does: a curve has to be defended point by point.',
  done: () => 'put on pulled points',
  start({ outOf, tick }) {
    const step = outOf >= 20 ? 1 : tick / 2
    const places = SHARES.map((share) => Math.round((outOf * share) / step) * step)
    return { kind: 'curve', points: places.map((x) => [x, x]) }
  },
  scaled: ({ kind, points }, by) => ({ kind, points: pointsOnScale(points, by) }),
  map: ({ points }) => curveMap(points),
  points: { read: ({ points }) => points, put: (method, points) => ({ ...method, points }) },
}

/** Straight between the points; beyond the ends a mark keeps the distance that the end point was moved. */
function curveMap(points: [number, number][]): MarkMap {
  if (points.length < 2) throw new AdjustmentError('A curve needs two points or more.')
  const exact = points.map(([x, y]) => [finite(x), finite(y)] as const)
  for (let i = 1; i < exact.length; i++) {
    if (compare(exact[i]![0], exact[i - 1]![0]) <= 0)
      throw new AdjustmentError(`Point ${i + 1} starts at ${points[i]![0]}, not above point ${i}: points go from low to high.`)
    if (compare(exact[i]![1], exact[i - 1]![1]) < 0)
      throw new AdjustmentError(`Point ${i + 1} gives ${points[i]![1]}, below point ${i}: a higher mark would become a lower one.`)
  }
  return (x) => {
    const after = exact.findIndex(([px]) => compare(x, px) <= 0)
    const end = after === 0 ? exact[0]! : after === -1 ? exact.at(-1)! : null
    if (end) return plus(x, minus(end[1], end[0]))
    const [x1, y1] = exact[after]!
    const [x0, y0] = exact[after - 1]!
    return plus(y0, times(minus(x, x0), over(minus(y1, y0), minus(x1, x0))))
  }
}
