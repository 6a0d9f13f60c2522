import type { StandardInUse, StandardUse } from '#contract'

type Picks = Record<string, number>

/** What is hidden from those who mark by it. */
export type Hides = Pick<StandardUse, 'hidePoints' | 'hideWords'>

/**
 * A standard as it is sent to who may not see its points or its words: levels count from 0 in their order, at no distance, and what
 * is hidden is not in it. A mark scheme's points are given as such, and stay.
 */
export function shownOf(standard: StandardInUse, { hidePoints, hideWords }: Hides): StandardInUse {
  if (standard.kind === 'scale')
    return hidePoints
      ? { ...standard, body: { labels: standard.body.labels.map((l, i) => ({ label: l.label, percent: i, threshold: i })) } }
      : standard
  if (standard.kind === 'scheme')
    return hideWords
      ? { ...standard, body: { criteria: standard.body.criteria.map(({ id, title, max }) => ({ id, title, max, words: '' })) } }
      : standard
  const { bands, ...body } = standard.body
  return {
    ...standard,
    body: {
      ...body,
      ...(bands && !hideWords && !hidePoints ? { bands } : {}),
      criteria: body.criteria.map(({ description, levels, ranges, ...c }) => ({
        ...c,
        ...(description !== undefined && !hideWords ? { description } : {}),
        ranges: ranges && !hidePoints,
        levels: levels.map((l, i) => ({
          points: hidePoints ? i : l.points,
          ...(l.to !== undefined && !hidePoints ? { to: l.to } : {}),
          ...(l.name !== undefined && !hideWords ? { name: l.name } : {}),
          words: hideWords ? '' : l.words,
          ...(l.comment !== undefined && !hideWords ? { comment: l.comment } : {}),
        })),
      })),
    },
  }
}

const levelsOf = (standard: StandardInUse | null, id: string) =>
  standard?.kind === 'rubric' ? (standard.body.criteria.find((c) => c.id === id)?.levels ?? []) : []
const placeOf = (standard: StandardInUse | null, id: string, points: number): number =>
  levelsOf(standard, id).findIndex((l) => points >= l.points && points <= Math.max(l.points, l.to ?? l.points))

/** Picks as they are sent where points are hidden: the place of the level, from 0. */
export function picksShown(standard: StandardInUse | null, picks: Picks, { hidePoints }: Hides): Picks {
  if (!hidePoints || standard?.kind !== 'rubric') return picks
  return Object.fromEntries(
    Object.entries(picks).flatMap(([id, points]) => (placeOf(standard, id, points) < 0 ? [] : [[id, placeOf(standard, id, points)]])),
  )
}

/**
 * Picks that came back by place, as points again; what was given inside a level's range stays where the level did not change.
 * @param kept the picks as they are kept
 */
export function picksMeant(standard: StandardInUse | null, picks: Picks, { hidePoints }: Hides, kept: Picks = {}): Picks {
  if (!hidePoints || standard?.kind !== 'rubric') return picks
  return Object.fromEntries(
    Object.entries(picks).map(([id, place]) => {
      const before = kept[id]
      if (before !== undefined && placeOf(standard, id, before) === place) return [id, before]
      // A place that is none is refused by the rubric.
      return [id, levelsOf(standard, id)[place]?.points ?? -1]
    }),
  )
}
