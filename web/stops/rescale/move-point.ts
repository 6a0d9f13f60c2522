/** The points with one moved, kept in order: between its neighbours across, and never past them up or down. */
export function movePoint(points: [number, number][], at: number, to: [number, number], outOf: number, grain: number): [number, number][] {
  const before = points[at - 1]
  const after = points[at + 1]
  const snap = (v: number) => Number((Math.round(v / grain) * grain).toFixed(3))
  const x = Math.min(after ? after[0] - grain : outOf, Math.max(before ? before[0] + grain : 0, snap(to[0])))
  const y = Math.min(after ? after[1] : outOf, Math.max(before ? before[1] : 0, snap(to[1])))
  return points.map((p, i) => (i === at ? [Number(x.toFixed(3)), y] : p))
}
