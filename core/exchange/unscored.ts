import type { LevelPlace } from './case'

/** By which the points of a level are kept that has no score in its file. */
export const placeKey = ({ criterion, level }: LevelPlace): string => `${criterion}/${level}`

interface Scored {
  levels: { points: number }[]
}

/**
 * Criteria of a file with the points that somebody gave those levels that have no score in it, the lowest level first.
 * @param given points by `placeKey`
 */
export function withPoints<C extends Scored>(
  criteria: readonly C[],
  unscored: readonly LevelPlace[],
  given: Readonly<Record<string, number>>,
): C[] {
  const asked = new Set(unscored.map(placeKey))
  return criteria.map((c, criterion) => {
    const levels = c.levels.map((l, level) => {
      const key = placeKey({ criterion, level })
      return asked.has(key) ? { ...l, points: given[key] ?? 0 } : l
    })
    return { ...c, levels: levels.sort((a, b) => a.points - b.points) }
  })
}
