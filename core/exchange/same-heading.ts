const withoutEnd = (cells: readonly string[]): string[] => cells.slice(0, cells.findLastIndex((c) => c.trim() !== '') + 1)

/** Whether two headings say the same, blank cells at their ends left aside. */
export function sameHeading(a: readonly string[], b: readonly string[]): boolean {
  const [one, other] = [withoutEnd(a), withoutEnd(b)]
  return one.length === other.length && one.every((h, i) => h.trim() === other[i]!.trim())
}
