import type { Criterion, Rubric } from './rubric'

export interface CriterionDifference {
  criterionId: string
  title: string
  kind: 'added' | 'removed' | 'changed'
  /** What changed, each as a phrase; empty where it was added or removed as a whole. */
  changes: string[]
}

/**
 * What a version of a rubric changes in the one before, criterion by criterion in the order of the later one, the
 * removed ones last. A criterion keeps its id through its versions; one that did not change is not listed.
 */
export function compareRubrics(before: Rubric, after: Rubric): CriterionDifference[] {
  const was = new Map(before.criteria.map((c, i) => [c.id, { c, i }]))
  const stays = new Set(after.criteria.map((c) => c.id))
  // Place among those that both have: an added criterion above does not make the others move.
  const orderBefore = before.criteria.filter((c) => stays.has(c.id)).map((c) => c.id)
  const orderAfter = after.criteria.filter((c) => was.has(c.id)).map((c) => c.id)
  const found = after.criteria.flatMap((c): CriterionDifference[] => {
    const old = was.get(c.id)
    if (!old) return [{ criterionId: c.id, title: c.title, kind: 'added', changes: [] }]
    const changes = criterionChanges(old.c, c)
    if (orderBefore.indexOf(c.id) !== orderAfter.indexOf(c.id)) changes.push('stands elsewhere')
    return changes.length > 0 ? [{ criterionId: c.id, title: c.title, kind: 'changed', changes }] : []
  })
  const gone = before.criteria.filter((c) => !stays.has(c.id))
  return [...found, ...gone.map((c): CriterionDifference => ({ criterionId: c.id, title: c.title, kind: 'removed', changes: [] }))]
}

function criterionChanges(a: Criterion, b: Criterion): string[] {
  const changes: string[] = []
  if (a.title !== b.title) changes.push(`was called ${a.title}`)
  if (a.penalty !== b.penalty) changes.push(b.penalty ? 'is a penalty now' : 'is no penalty any more')
  if (a.ranges !== b.ranges) changes.push(b.ranges ? 'takes any point inside a level' : 'takes the levels’ own points only')
  if (a.levels.length !== b.levels.length) changes.push(`${b.levels.length} levels, was ${a.levels.length}`)
  const points = (c: Criterion) =>
    c.levels.map((l) => (c.ranges && l.to !== undefined && l.to !== l.points ? `${l.points}–${l.to}` : l.points))
  const [pointsA, pointsB] = [points(a).join(' · '), points(b).join(' · ')]
  if (pointsA !== pointsB) changes.push(`points ${pointsB}, were ${pointsA}`)
  if (a.levels.length === b.levels.length)
    b.levels.forEach((l, i) => {
      const old = a.levels[i]!
      if (old.words !== l.words) changes.push(`level ${i + 1}: “${short(old.words)}” is “${short(l.words)}”`)
    })
  return changes
}

const short = (words: string) => (words.length > 80 ? `${words.slice(0, 79)}…` : words)
