import type { ResultChange } from './compare-results'

/** How many grades change; of what was recorded before, who gets one and who loses one was not told apart. */
export type Moves = { grades: number } & Pick<ResultChange, 'up' | 'down'> & Partial<Pick<ResultChange, 'gained' | 'lost' | 'renamed'>>

/** Which way grades change, in parts that add up to how many change: “3 up, 1 down, 12 with a first grade”. Empty where none does. */
export function movesInWords({ grades, up, down, gained, lost, renamed = 0 }: Moves): string {
  const rest = gained === undefined || lost === undefined ? grades - up - down : 0
  const parts: [number, string][] = [
    [up, 'up'],
    [down, 'down'],
    [gained ?? 0, 'with a first grade'],
    [lost ?? 0, 'without a grade then'],
    [renamed, 'under another name'],
    [rest, 'with or without a grade then'],
  ]
  return parts
    .filter(([n]) => n > 0)
    .map(([n, words]) => `${n} ${words}`)
    .join(', ')
}

/** The same of a comparison. */
export const movesOf = (c: Pick<ResultChange, 'movers' | 'up' | 'down' | 'gained' | 'lost' | 'renamed'>): Moves => ({
  ...c,
  grades: c.movers.length,
})
