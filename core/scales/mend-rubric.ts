import { minus, rationalOf, toNumber } from '../grades/rational'
import { resizeCriterion } from './resize-criterion'
import { criterionMaximum, rubricMaximum, type Criterion, type Rubric } from './rubric'
import type { RubricFix } from './rubric-findings'

/** The rubric with a finding mended; unchanged where what it was about is not there any more. */
export function mendRubric<C extends Criterion>(rubric: { criteria: C[] }, fix: RubricFix): { criteria: C[] } {
  if (fix.kind === 'resize all') return resizeRubric(rubric, fix.maximum, fix.step)
  return {
    criteria: rubric.criteria.map((c) => (c.id === fix.criterionId ? { ...c, levels: mendedLevels(c, fix) } : c)),
  }
}

function mendedLevels(c: Criterion, fix: Exclude<RubricFix, { kind: 'resize all' }>): Criterion['levels'] {
  switch (fix.kind) {
    case 'add a zero level':
      return [{ points: 0, words: '' }, ...c.levels]
    case 'sort the levels':
      return [...c.levels].sort((a, b) => a.points - b.points)
    case 'drop the double':
      return c.levels.filter((_, i) => i !== fix.level)
    case 'end the range': {
      const next = [...c.levels].sort((a, b) => a.points - b.points).find((l) => l.points > c.levels[fix.level]!.points)
      return c.levels.map((l, i) => {
        if (i !== fix.level || !next) return l
        const to = toNumber(minus(rationalOf(next.points), rationalOf(0.5)))
        return { ...l, to: Math.max(l.points, to) }
      })
    }
  }
}

/**
 * A rubric whose maximum is another one, each criterion in proportion, snapped to the step; what snapping leaves over or
 * short goes to the largest criterion, so that the whole is exactly the maximum. Penalties keep their points.
 */
export function resizeRubric<C extends Criterion>(rubric: { criteria: C[] }, maximum: number, step: number): { criteria: C[] } {
  const now = rubricMaximum(rubric as Rubric)
  if (!(now > 0) || !(maximum > 0)) return rubric
  const counting = rubric.criteria.filter((c) => !c.penalty && criterionMaximum(c) > 0)
  const tops = counting.map((c) => Math.max(step, Math.floor((criterionMaximum(c) * maximum) / now / step + 0.5) * step))
  const left = maximum - tops.reduce((s, x) => s + x, 0)
  const largest = tops.indexOf(Math.max(...tops))
  const wanted = new Map(counting.map((c, i) => [c.id, Number((tops[i]! + (i === largest ? left : 0)).toFixed(3))]))
  return {
    criteria: rubric.criteria.map((c) => {
      const top = wanted.get(c.id)
      return top === undefined || top <= 0 ? c : { ...c, ...resizeCriterion(c, top, step) }
    }),
  }
}
