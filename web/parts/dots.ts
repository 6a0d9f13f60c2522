export interface Dot {
  x: number
  /** Place in its stack, from 1. */
  y: number
  id: string
}

/** Stacks values into columns `width` apart, so that each person is a dot of their own. */
export function stackDots(people: readonly { id: string; value: number }[], width: number): Dot[] {
  const height = new Map<number, number>()
  return people.map(({ id, value }) => {
    const column = Math.floor(value / width)
    const y = (height.get(column) ?? 0) + 1
    height.set(column, y)
    return { x: (column + 0.5) * width, y, id }
  })
}

export interface Column {
  /** Its middle. */
  x: number
  /** How many stand in it. */
  n: number
}

/** How many stand in each column, for the outline of an earlier state. */
export function columnCounts(values: Iterable<number>, width: number, from: number, to: number): Column[] {
  const counts: Column[] = []
  for (let c = Math.floor(from / width); c < to / width; c++) counts.push({ x: (c + 0.5) * width, n: 0 })
  const first = Math.floor(from / width)
  for (const v of values) {
    const at = counts[Math.floor(v / width) - first]
    if (at) at.n++
  }
  return counts
}
