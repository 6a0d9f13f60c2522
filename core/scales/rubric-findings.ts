import { over, rationalOf, times, toNumber } from '../grades/rational'
import { criterionMaximum, rubricMaximum, type Criterion, type Rubric } from './rubric'

export type RubricFindingKind =
  | 'no criteria'
  | 'too few levels'
  | 'no zero level'
  | 'many levels'
  | 'out of order'
  | 'equal points'
  | 'same words'
  | 'no words'
  | 'range'
  | 'over half'
  | 'awkward decimals'

/** A change of the rubric that mends a finding. */
export type RubricFix =
  | { kind: 'add a zero level'; criterionId: string }
  | { kind: 'sort the levels'; criterionId: string }
  | { kind: 'drop the double'; criterionId: string; level: number }
  | { kind: 'end the range'; criterionId: string; level: number }
  /** Resizes the whole to another maximum, at which marks come out plain. */
  | { kind: 'resize all'; maximum: number; step: number }

export interface RubricFinding {
  kind: RubricFindingKind
  /** Null where it is about the whole. */
  criterionId: string | null
  message: string
  fix: RubricFix | null
}

const MANY = 6

/**
 * What is odd about a rubric, in the order of its criteria, each with what would mend it.
 * @param outOf what the assessment it is used in is marked out of; null where none is known
 */
export function rubricFindings(rubric: Rubric, outOf: number | null = null): RubricFinding[] {
  const findings: RubricFinding[] = []
  if (rubric.criteria.length === 0)
    findings.push({ kind: 'no criteria', criterionId: null, message: 'The rubric has no criterion yet.', fix: null })
  for (const c of rubric.criteria) findings.push(...criterionFindings(c))
  const maximum = rubricMaximum(rubric)
  for (const c of rubric.criteria) {
    const top = criterionMaximum(c)
    if (!c.penalty && rubric.criteria.filter((x) => !x.penalty).length > 2 && top * 2 > maximum)
      findings.push({
        kind: 'over half',
        criterionId: c.id,
        message: `${c.title} carries ${top} of ${maximum} points, over half of the whole.`,
        fix: null,
      })
  }
  if (outOf !== null && maximum > 0 && awkward(rubric, maximum, outOf))
    findings.push({
      kind: 'awkward decimals',
      criterionId: null,
      message: `${maximum} points scaled to ${outOf} make marks with long decimals, such as ${firstAwkward(rubric, maximum, outOf)}.`,
      fix: { kind: 'resize all', maximum: outOf, step: outOf >= maximum ? 0.5 : 0.25 },
    })
  return findings
}

function criterionFindings(c: Criterion): RubricFinding[] {
  const found: RubricFinding[] = []
  const add = (kind: RubricFindingKind, message: string, fix: RubricFix | null = null) =>
    found.push({ kind, criterionId: c.id, message, fix })
  const { levels } = c
  if (levels.length < 2)
    add('too few levels', `${c.title} has ${levels.length === 0 ? 'no level' : 'one level'}: there is nothing to choose between.`)
  if (levels.length > 0 && !levels.some((l) => l.points === 0))
    add('no zero level', `${c.title} has no level for work that shows none of it.`, { kind: 'add a zero level', criterionId: c.id })
  if (levels.length > MANY) add('many levels', `${c.title} has ${levels.length} levels: markers keep apart six at the most.`)
  if (levels.some((l, i) => i > 0 && l.points < levels[i - 1]!.points))
    add('out of order', `The levels of ${c.title} do not rise.`, { kind: 'sort the levels', criterionId: c.id })
  const sorted = [...levels].sort((a, b) => a.points - b.points)
  sorted.forEach((l, i) => {
    const next = sorted[i + 1]
    if (!next) return
    if (l.points === next.points)
      add('equal points', `Two levels of ${c.title} are worth ${l.points}.`, {
        kind: 'drop the double',
        criterionId: c.id,
        level: levels.indexOf(next),
      })
    else if (c.ranges && l.to !== undefined && l.to >= next.points)
      add('range', `A range of ${c.title} reaches from ${l.points} to ${l.to}, into the level at ${next.points}.`, {
        kind: 'end the range',
        criterionId: c.id,
        level: levels.indexOf(l),
      })
  })
  const words = levels.map((l) => l.words.trim().toLowerCase())
  const double = words.findIndex((w, i) => w !== '' && words.indexOf(w) < i)
  if (double >= 0) add('same words', `Two levels of ${c.title} say the same: “${levels[double]!.words.trim().slice(0, 60)}”.`)
  const silent = levels.filter((l) => l.words.trim() === '').length
  if (silent > 0 && levels.length > 0)
    add('no words', `${silent === 1 ? 'A level' : `${silent} levels`} of ${c.title} ${silent === 1 ? 'has' : 'have'} no words.`)
  return found
}

/** Points of single levels, scaled; a sum of plain ones is plain. */
const scaled = (points: number, maximum: number, outOf: number) =>
  toNumber(times(over(rationalOf(points), rationalOf(maximum)), rationalOf(outOf)))
const isAwkward = (mark: number) => Math.abs(mark * 100 - Math.round(mark * 100)) > 1e-7
const pointsOf = (rubric: Rubric) => rubric.criteria.flatMap((c) => c.levels.flatMap((l) => [l.points, l.to ?? l.points]))
const awkward = (rubric: Rubric, maximum: number, outOf: number) => pointsOf(rubric).some((p) => isAwkward(scaled(p, maximum, outOf)))
const firstAwkward = (rubric: Rubric, maximum: number, outOf: number) =>
  scaled(
    pointsOf(rubric).find((p) => isAwkward(scaled(p, maximum, outOf)))!,
    maximum,
    outOf,
  ).toFixed(3)
