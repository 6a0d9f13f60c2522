export interface Stop {
  points: number
  /** Highest points inside it, where any may be given. */
  to?: number | undefined
}

/** Part of a step that the range of the last level takes. */
const LAST = 0.6

/**
 * Levels one step apart, whatever they are worth: while points are hidden their distances would tell them.
 * @returns the stops by their places from 0, where points come to lie among them, and how far it goes
 */
export function evenly(stops: readonly Stop[]): { stops: Stop[]; place: (points: number) => number; end: number } {
  const place = (points: number) => {
    const i = Math.max(
      0,
      stops.findLastIndex((s) => s.points <= points),
    )
    const [here, next] = [stops[i], stops[i + 1]]
    if (!here) return 0
    const reach = next ? next.points - here.points : ((here.to ?? here.points) - here.points) / LAST
    return i + (reach > 0 ? (points - here.points) / reach : 0)
  }
  const placed = stops.map((s, i) => ({ points: i, to: s.to === undefined ? undefined : place(s.to) }))
  return { stops: placed, place, end: Math.max(0, ...placed.map((s) => s.to ?? s.points)) }
}
