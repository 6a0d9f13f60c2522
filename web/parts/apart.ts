/**
 * Moves labels as little as it takes for none to overlap and all to stay inside: their middles, from left to right, in the unit of
 * their widths. Null where they do not fit side by side.
 */
export function apart(middles: readonly number[], widths: readonly number[], room: number): number[] | null {
  if (widths.reduce((sum, w) => sum + w, 0) > room) return null
  const placed = [...middles]
  for (let i = 0; i < placed.length; i++) {
    const left = i === 0 ? 0 : placed[i - 1]! + widths[i - 1]! / 2
    placed[i] = Math.max(placed[i]!, left + widths[i]! / 2)
  }
  for (let i = placed.length - 1; i >= 0; i--) {
    const right = i === placed.length - 1 ? room : placed[i + 1]! - widths[i + 1]! / 2
    placed[i] = Math.min(placed[i]!, right - widths[i]! / 2)
  }
  return placed
}
