import { compare, minus, over, plus, rationalOf, roundToStep, times, toNumber, type Rational } from '../grades/rational'
import { criterionMaximum, type Criterion, type Picks, type Rubric } from './rubric'

export interface CarriedPicks {
  picks: Picks
  /** Criteria of the later version that nothing carries over to: they are not judged yet. */
  unjudged: string[]
  /** Criteria whose level is not there any more: the nearest one was taken in its place. */
  nearest: string[]
}

/** Points inside a range are carried to this step. */
const STEP = 0.5

/**
 * Carries what a reading chose over to another version of its rubric, level by level: the same level of the same
 * criterion, whatever it is worth now. Where a criterion has another number of levels, a level with the same words is
 * taken, else the one that lies nearest in proportion to the criterion's maximum, the lower of two equally near. Points
 * inside a range keep their place in it, to a half point.
 */
export function carryPicks(from: Rubric, to: Rubric, picks: Picks): CarriedPicks {
  const before = new Map(from.criteria.map((c) => [c.id, c]))
  const carried: Picks = {}
  const unjudged: string[] = []
  const nearest: string[] = []
  for (const c of to.criteria) {
    const old = before.get(c.id)
    const points = picks[c.id]
    const at = old && points !== undefined ? levelOf(old, points) : -1
    if (!old || points === undefined || at < 0 || c.levels.length === 0) {
      unjudged.push(c.id)
      continue
    }
    const same = sameLevel(old, at, c)
    if (same === null) nearest.push(c.id)
    const level = c.levels[same ?? nearestLevel(old, at, c)]!
    carried[c.id] = within(old, old.levels[at]!, points, c, level)
  }
  return { picks: carried, unjudged, nearest }
}

/** Which level points were given in. */
function levelOf(c: Criterion, points: number): number {
  const exact = c.levels.findIndex((l) => l.points === points)
  if (exact >= 0) return exact
  return c.levels.findIndex((l) => points >= l.points && points <= (l.to ?? l.points))
}

const topOf = (c: Criterion) => rationalOf(criterionMaximum(c))
const share = (points: number, top: Rational) => (top.n === 0n ? rationalOf(0) : over(rationalOf(points), top))

/** Null where none is the same. */
function sameLevel(old: Criterion, at: number, c: Criterion): number | null {
  if (old.levels.length === c.levels.length) return at
  const words = old.levels[at]!.words.trim().toLowerCase()
  const same = words === '' ? -1 : c.levels.findIndex((l) => l.words.trim().toLowerCase() === words)
  return same >= 0 ? same : null
}

function nearestLevel(old: Criterion, at: number, c: Criterion): number {
  const wanted = share(old.levels[at]!.points, topOf(old))
  const distance = (i: number) => {
    const d = minus(share(c.levels[i]!.points, topOf(c)), wanted)
    return compare(d, rationalOf(0)) < 0 ? minus(rationalOf(0), d) : d
  }
  let best = 0
  for (let i = 1; i < c.levels.length; i++) if (compare(distance(i), distance(best)) < 0) best = i
  return best
}

type Level = Criterion['levels'][number]

function within(old: Criterion, from: Level, points: number, c: Criterion, to: Level): number {
  const width = (to.to ?? to.points) - to.points
  const was = (from.to ?? from.points) - from.points
  if (!c.ranges || !old.ranges || width <= 0 || was <= 0) return to.points
  const place = over(minus(rationalOf(points), rationalOf(from.points)), minus(rationalOf(from.to!), rationalOf(from.points)))
  const moved = plus(rationalOf(to.points), times(place, minus(rationalOf(to.to!), rationalOf(to.points))))
  return Math.min(to.to!, Math.max(to.points, toNumber(roundToStep(moved, rationalOf(STEP)))))
}
