/**
 * Counts as whole percents of their sum that add up to 100: each rounded down, and what is left over goes to the largest remainders, of
 * equal ones to the first (the method of largest remainders, Hamilton 1792).
 * @param counts whole numbers of 0 or more
 * @returns as many percents; all 0 of nobody
 */
export function wholePercents(counts: readonly number[]): number[] {
  const all = counts.reduce((sum, n) => sum + n, 0)
  if (all === 0) return counts.map(() => 0)
  // In whole numbers, so that equal remainders are equal.
  const down = counts.map((n) => Math.floor((n * 100) / all))
  const left = 100 - down.reduce((sum, n) => sum + n, 0)
  const first = counts.map((n, i) => ({ i, over: n * 100 - down[i]! * all })).sort((a, b) => b.over - a.over || a.i - b.i)
  for (const { i } of first.slice(0, left)) down[i]!++
  return down
}
