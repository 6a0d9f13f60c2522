const plain = (heading: string | undefined): string => (heading ?? '').trim().toLowerCase()
const withoutEnd = (cells: readonly string[]): string[] => cells.slice(0, cells.findLastIndex((c) => c.trim() !== '') + 1)

/**
 * Where the columns of a heading that was matched by hand stand in another one, which may have more columns or another order.
 * @param used places of the columns that the match uses
 * @returns a column’s place now by its place then; null where one of them is not there, or is there twice
 */
export function columnsNow(then: readonly string[], used: readonly number[], now: readonly string[]): ((column: number) => number) | null {
  const [one, other] = [withoutEnd(then), withoutEnd(now)]
  if (one.length === other.length && one.every((h, i) => plain(h) === plain(other[i]))) return (column) => column
  const places = new Map<number, number>()
  for (const column of used) {
    const at = now.flatMap((h, i) => (plain(h) !== '' && plain(h) === plain(then[column]) ? [i] : []))
    if (at.length !== 1) return null
    places.set(column, at[0]!)
  }
  return places.size === 0 ? null : (column) => places.get(column) ?? column
}
