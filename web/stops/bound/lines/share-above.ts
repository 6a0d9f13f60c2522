/** The share of people who stand in the grade of a line or a better one; null of nobody. @param counts from the best grade down */
export const shareAbove = (counts: readonly { count: number }[], people: number, line: number): number | null =>
  people === 0 ? null : counts.slice(0, line + 1).reduce((n, c) => n + c.count, 0) / people
