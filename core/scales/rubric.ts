import { compare, minus, most, over, plus, rationalOf, times, toNumber, ZERO } from '../grades/rational'

export interface RubricLevel {
  points: number
  /** What it is called, as in “good”, beside the words that describe it. */
  name?: string | undefined
  words: string
  /** Highest points inside the level where the criterion allows ranges; the level's own points otherwise. */
  to?: number | undefined
}

export interface Criterion {
  id: string
  title: string
  /** What it is about, where its title does not say enough. */
  description?: string | undefined
  /** In ascending order of points. A penalty's points are what it takes off, 0 or more. */
  levels: RubricLevel[]
  /** Any point inside a level's range may be given. */
  ranges: boolean
  penalty: boolean
}

/** A level in one line: its name, its words, or both. */
export const levelText = ({ name, words }: Pick<RubricLevel, 'name' | 'words'>): string => [name, words].filter(Boolean).join(': ')

export interface Rubric {
  criteria: Criterion[]
}

/** Criterion id → points given: a level's own, or exact points inside a range. */
export type Picks = Record<string, number>

/** A pick that the rubric does not have; the message names the criterion. */
export class RubricError extends Error {
  override name = 'RubricError'
}

/** The most points that a criterion gives, or a penalty takes off; 0 where it has no level. */
export const criterionMaximum = (c: Pick<Criterion, 'levels'>): number => Math.max(0, ...c.levels.map((l) => l.to ?? l.points))

/** The rubric's maximum in points; penalties count for nothing in it. */
export function rubricMaximum(rubric: Rubric): number {
  return toNumber(
    rubric.criteria
      .filter((c) => !c.penalty)
      .map((c) => rationalOf(criterionMaximum(c)))
      .reduce(plus, ZERO),
  )
}

/**
 * Sum of the points given; penalties subtract and the floor is 0.
 * @returns the total in the rubric's own points and the criteria not yet judged: with a gap it is not complete
 * @throws RubricError for an unknown criterion or points that are no level's and lie in no range
 */
export function rubricTotal(rubric: Rubric, picks: Picks): { total: number; unjudged: string[]; complete: boolean } {
  const known = new Set(rubric.criteria.map((c) => c.id))
  for (const id of Object.keys(picks)) if (!known.has(id)) throw new RubricError(`The rubric has no criterion ${id}.`)
  let total = ZERO
  const unjudged: string[] = []
  for (const c of rubric.criteria) {
    const points = picks[c.id]
    if (points === undefined) {
      unjudged.push(c.id)
      continue
    }
    const allowed = c.levels.some((l) => points === l.points || (c.ranges && points >= l.points && points <= (l.to ?? l.points)))
    if (!allowed) throw new RubricError(`${c.title}: ${points} is not one of its levels${c.ranges ? ' or ranges' : ''}.`)
    total = c.penalty ? minus(total, rationalOf(points)) : plus(total, rationalOf(points))
  }
  return { total: toNumber(most(ZERO, total)), unjudged, complete: unjudged.length === 0 }
}

/**
 * The total scaled to what the assessment is marked out of; null while a criterion is unjudged, unless the gap is meant:
 * then what is unjudged gives nothing.
 */
export function rubricMark(rubric: Rubric, picks: Picks, outOf: number, gap: 'refused' | 'meant' = 'refused'): number | null {
  const { total, complete } = rubricTotal(rubric, picks)
  const maximum = rubricMaximum(rubric)
  if ((!complete && gap === 'refused') || maximum === 0) return null
  return toNumber(times(over(rationalOf(total), rationalOf(maximum)), rationalOf(outOf)))
}

export interface MarkScheme {
  criteria: { id: string; title: string; max: number }[]
}

/**
 * Free points per criterion, 0 up to its maximum, scaled to what the assessment is marked out of.
 * @returns null while a criterion has no points, unless the gap is meant: then it gives nothing
 * @throws RubricError for points outside a criterion's range or an unknown criterion
 */
export function schemeMark(scheme: MarkScheme, points: Picks, outOf: number, gap: 'refused' | 'meant' = 'refused'): number | null {
  const known = new Map(scheme.criteria.map((c) => [c.id, c]))
  for (const [id, given] of Object.entries(points)) {
    const c = known.get(id)
    if (!c) throw new RubricError(`The mark scheme has no criterion ${id}.`)
    if (!(given >= 0 && given <= c.max)) throw new RubricError(`${c.title}: ${given} is outside 0 to ${c.max}.`)
  }
  if (gap === 'refused' && scheme.criteria.some((c) => points[c.id] === undefined)) return null
  const total = scheme.criteria.map((c) => rationalOf(points[c.id] ?? 0)).reduce(plus, ZERO)
  const maximum = scheme.criteria.map((c) => rationalOf(c.max)).reduce(plus, ZERO)
  if (compare(maximum, ZERO) === 0) return null
  return toNumber(times(over(total, maximum), rationalOf(outOf)))
}
