import { resizeCriterion } from './resize-criterion'
import { criterionMaximum, type Criterion } from './rubric'

type Level = Criterion['levels'][number]

/** `c` with the points and ranges of `like`; words are kept by `from`: per level of `like` its place in `c`, or −1 for a new one. */
function takeLevels<C extends Criterion>(c: C, like: Criterion, from: readonly number[]): C {
  const levels = like.levels.map(({ points, to }, i): Level => {
    const { to: _, ...kept } = c.levels[from[i]!] ?? { words: '' }
    return { ...kept, points, ...(to === undefined ? {} : { to }) }
  })
  return { ...c, ranges: like.ranges, levels }
}

const inPlace = (c: Criterion) => c.levels.map((_, i) => i)
const counting = <C extends Criterion>(criteria: readonly C[]) => criteria.filter((c) => !c.penalty)

/** Whether all criteria have levels at the same points; penalties stand apart. */
export function areAlike(criteria: readonly Criterion[]): boolean {
  const shapes = counting(criteria).map((c) => JSON.stringify([c.ranges, c.levels.map((l) => [l.points, l.to ?? null])]))
  return new Set(shapes).size <= 1
}

/** Gives all criteria the levels of the one that has most, so that no words are lost; penalties stand apart. */
export function makeAlike<C extends Criterion>(criteria: readonly C[]): C[] {
  const like = counting(criteria).reduce<C | null>((most, c) => (most && most.levels.length >= c.levels.length ? most : c), null)
  return criteria.map((c) => (like && !c.penalty ? takeLevels(c, like, inPlace(like)) : c))
}

/**
 * Puts a changed criterion in its place and changes the levels of all others with it: a level that was added, taken away, moved
 * or put elsewhere in one is so in all, each with its own words. Penalties stand apart.
 * @param after the changed criterion; its levels that did not change are the same objects as in `criteria`
 */
export function changeAlike<C extends Criterion>(criteria: readonly C[], after: C): C[] {
  const before = criteria.find((c) => c.id === after.id)
  const others = counting(criteria).filter((c) => c.id !== after.id)
  // One that was a penalty, or is new, becomes like the others; a penalty is nobody's model.
  const joins = !after.penalty && (!before || before.penalty) && others[0]
  const placed = joins ? takeLevels(after, joins, inPlace(joins)) : after
  const put = before ? criteria.map((c) => (c === before ? placed : c)) : [...criteria, placed]
  if (after.penalty || !before || before.penalty) return put
  const from = after.levels.map((l, i) => {
    const was = before.levels.indexOf(l)
    return was < 0 && after.levels.length === before.levels.length ? i : was
  })
  return put.map((c) => (c.penalty || c.id === after.id ? c : takeLevels(c, after, from)))
}

/**
 * Criteria that are alike with another maximum for the whole: each gets the same part of it, to three decimals.
 * @param maximum above 0
 * @param step what the levels below the top are multiples of
 */
export function resizeAlike<C extends Criterion>(criteria: readonly C[], maximum: number, step: number): C[] {
  const each = Number((maximum / counting(criteria).length).toFixed(3))
  return criteria.map((c) => (c.penalty || !(criterionMaximum(c) > 0) ? c : { ...c, ...resizeCriterion(c, each, step) }))
}
