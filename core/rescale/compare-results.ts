import type { Boundary, StudentResult } from '../grades/course'

export interface Mover {
  studentId: string
  fromGrade: string | null
  toGrade: string | null
  fromPercent: number | null
  toPercent: number | null
  /** Boundaries passed: positive upward. 0 where a grade appears or goes, or keeps its place. */
  direction: number
}

export interface ResultChange {
  /** Students whose course percent (final, or so far where something is pending) changed. */
  percents: number
  /** Students whose grade changed, the farthest first. */
  movers: Mover[]
  up: number
  down: number
  /** Of them those who get a grade and had none, who have none and had one, and whose grade has another name at the same place. */
  gained: number
  lost: number
  renamed: number
  /** Pairs whose order by final percent was reversed, and the first of them: `passes` was behind `passed`. */
  reversed: number
  pairs: { passes: string; passed: string }[]
}

/** Where a student stands: all that is compared of a result. */
export type Place = Pick<StudentResult, 'studentId' | 'soFar' | 'adjusted' | 'grade'>
export interface Places {
  students: readonly Place[]
  boundaries: readonly Boundary[]
}

const PAIRS_NAMED = 50
/** Percents this near are the same: the order of a sum may leave its last place another. */
const SAME = 1e-9
const isOther = (a: number | null, b: number | null): boolean => (a === null || b === null ? a !== b : Math.abs(a - b) > SAME)
const snapped = (x: number): number => Math.round(x / SAME) * SAME

export const percentOf = (s: Pick<StudentResult, 'adjusted' | 'soFar'>): number | null => s.adjusted ?? s.soFar

/** Who moves, and who overtakes whom, between two results of the same students. */
export function compareResults(before: Places, after: Places): ResultChange {
  const earlier = finder(before.students)
  const rankBefore = ranks(before.boundaries)
  const rankAfter = ranks(after.boundaries)
  const movers: Mover[] = []
  const placed: { id: string; was: number; is: number }[] = []
  let percents = 0
  let finalsMoved = false
  for (const [i, now] of after.students.entries()) {
    const was = earlier(now.studentId, i)
    if (!was) continue
    const a = percentOf(was)
    const b = percentOf(now)
    if (isOther(a, b)) percents++
    if (was.adjusted !== null && now.adjusted !== null) {
      placed.push({ id: now.studentId, was: snapped(was.adjusted), is: snapped(now.adjusted) })
      if (isOther(was.adjusted, now.adjusted)) finalsMoved = true
    }
    if (was.grade !== now.grade) {
      const from = was.grade === null ? undefined : rankBefore.get(was.grade)
      const to = now.grade === null ? undefined : rankAfter.get(now.grade)
      movers.push({
        studentId: now.studentId,
        fromGrade: was.grade,
        toGrade: now.grade,
        fromPercent: a,
        toPercent: b,
        direction: from === undefined || to === undefined ? 0 : to - from,
      })
    }
  }
  movers.sort((x, y) => Math.abs(y.direction) - Math.abs(x.direction) || (y.toPercent ?? 0) - (x.toPercent ?? 0))
  const gained = movers.filter((m) => m.fromGrade === null).length
  const lost = movers.filter((m) => m.toGrade === null).length
  const up = movers.filter((m) => m.direction > 0).length
  const down = movers.filter((m) => m.direction < 0).length
  return {
    percents,
    movers,
    up,
    down,
    gained,
    lost,
    renamed: movers.length - up - down - gained - lost,
    // Where no percent moves nobody overtakes anybody, and thousands need not be put in order.
    ...(finalsMoved ? reversals(placed) : { reversed: 0, pairs: [] }),
  }
}

/** Finds students by id; where both lists have them in the same places, as they mostly have, without a search. */
function finder(students: readonly Place[]): (id: string, at: number) => Place | undefined {
  let byId: Map<string, Place> | null = null
  return (id, at) => {
    const same = students[at]
    if (same?.studentId === id) return same
    return (byId ??= new Map(students.map((s) => [s.studentId, s]))).get(id)
  }
}

/** Grade → its place from the bottom. */
function ranks(boundaries: readonly Boundary[]): Map<string, number> {
  return new Map([...boundaries].sort((a, b) => a.from - b.from).map((b, i) => [b.grade, i]))
}

/** Counts strictly reversed pairs by merge sort, and names the nearest ones. */
function reversals(placed: { id: string; was: number; is: number }[]): Pick<ResultChange, 'reversed' | 'pairs'> {
  // Ties before are ordered as they are after, so that they never count.
  const sorted = placed.toSorted((a, b) => a.was - b.was || a.is - b.is)
  const many = sorted.length
  const is = Float64Array.from(sorted, (p) => p.is)
  const pairs: ResultChange['pairs'] = []
  let reversed = 0
  let run = Uint32Array.from(sorted.keys())
  let next = new Uint32Array(many)
  for (let width = 1; width < many; width *= 2) {
    for (let start = 0; start < many; start += 2 * width) {
      const middle = Math.min(start + width, many)
      const end = Math.min(middle + width, many)
      let left = start
      let to = start
      for (let right = middle; right < end; right++) {
        while (left < middle && is[run[left]!]! <= is[run[right]!]!) next[to++] = run[left++]!
        reversed += middle - left
        for (let k = left; k < middle && pairs.length < PAIRS_NAMED; k++)
          pairs.push({ passes: sorted[run[k]!]!.id, passed: sorted[run[right]!]!.id })
        next[to++] = run[right]!
      }
      while (left < middle) next[to++] = run[left++]!
    }
    ;[run, next] = [next, run]
  }
  return { reversed, pairs }
}
