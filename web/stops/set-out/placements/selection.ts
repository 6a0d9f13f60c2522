import type { Spot } from './edits'

/** A block of cells from where it was begun to where it reaches. */
export interface Selection {
  from: Spot
  to: Spot
}

const between = (x: number, y: number): number[] => Array.from({ length: Math.abs(y - x) + 1 }, (_, i) => Math.min(x, y) + i)

export const spotsOf = ({ from, to }: Selection): Spot[] =>
  between(from.a, to.a).flatMap((a) => between(from.s, to.s).map((s) => ({ a, s })))

export const contains = ({ from, to }: Selection, a: number, s: number): boolean =>
  a >= Math.min(from.a, to.a) && a <= Math.max(from.a, to.a) && s >= Math.min(from.s, to.s) && s <= Math.max(from.s, to.s)

/** The selection after an arrow key; with Shift it reaches further, without it moves. */
export function stepped(selection: Selection, key: string, extend: boolean, size: { rows: number; columns: number }): Selection | null {
  const [da, ds] =
    { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1], Home: [0, -1e6], End: [0, 1e6] }[key] ?? []
  if (da === undefined || ds === undefined) return null
  const clamp = (x: number, n: number) => Math.max(0, Math.min(n - 1, x))
  const to = { a: clamp(selection.to.a + da, size.rows), s: clamp(selection.to.s + ds, size.columns) }
  return { from: extend ? selection.from : to, to }
}
