import normalCdf from '@stdlib/stats-base-dists-normal-cdf'
import type { CourseResult } from '../grades/course'
import type { CourseErrors, ErrorPart } from '../grades/course-error'
import { chanceOfGrade, leastPercents } from './grade-certainty'

export interface WorthReading {
  studentId: string
  assessmentId: string
  /** Behind the mark before this one, with those that were chosen earlier. */
  readings: number
  /** By how much the expected number of wrong grades falls. */
  gain: number
  /** Chance that the grade given is the right one, before and after this reading. */
  chance: number
  chanceAfter: number
}

/** Gains below this are rounding. */
const LEAST_GAIN = 1e-6

/**
 * The further readings that are expected to make most grades right, chosen one after the other: each is the best once those before it are
 * made, so that two of them can be readings of one script.
 * @param errors of the same course
 * @param most how many are chosen
 * @param room how often a script can still be read; without a limit where it is left out
 * Source: expected value of sample information; Raiffa & Schlaifer 1961, Applied Statistical Decision Theory. Greedy choice: ours.
 */
export function worthReading(...of: Parameters<typeof worthReadingInPieces>): WorthReading[] {
  return inOne(worthReadingInPieces(...of))
}

/** Does at once what comes in pieces. */
export function inOne<T>(pieces: Generator<void, T>): T {
  for (;;) {
    const step = pieces.next()
    if (step.done) return step.value
  }
}

/** The same, which yields between students: of 12,000 it takes half a second. */
export function* worthReadingInPieces(
  { students, boundaries, rounding }: CourseResult,
  errors: CourseErrors,
  most: number,
  room: (studentId: string, assessmentId: string) => number = () => Infinity,
): Generator<void, WorthReading[]> {
  const limits = leastPercents(boundaries, rounding)
  const errorFor = new Map(errors.students.map((s) => [s.studentId, s]))
  const next: Candidate[] = []
  for (const { studentId, adjusted: percent } of students) {
    const own = errorFor.get(studentId)
    if (percent === null || !own || own.se === 0) continue
    const chance = chanceOfGrade(percent, own.se, boundaries, rounding)
    // No reading gains more than what is still unsure.
    if (1 - chance < LEAST_GAIN) continue
    const best = bestOf({ studentId, percent, variance: own.se ** 2, parts: own.parts, read: own.parts.map(() => 0), chance }, limits, room)
    if (best) next.push(best)
    yield
  }
  const chosen: WorthReading[] = []
  while (chosen.length < most && next.length > 0) {
    let at = 0
    for (let i = 1; i < next.length; i++) if (before(next[i]!.found, next[at]!.found)) at = i
    const { found, of, part } = next[at]!
    chosen.push(found)
    const read = of.read.map((n, p) => (p === part ? n + 1 : n))
    const best = bestOf({ ...of, read, chance: found.chanceAfter }, limits, room)
    if (best) next[at] = best
    else next.splice(at, 1)
  }
  return chosen
}

const before = (a: WorthReading, b: WorthReading): boolean => a.gain > b.gain || (a.gain === b.gain && a.studentId < b.studentId)

/** A student with the further readings that were chosen so far, by part. */
interface Read {
  studentId: string
  percent: number
  variance: number
  parts: ErrorPart[]
  read: number[]
  chance: number
}
interface Candidate {
  found: WorthReading
  of: Read
  part: number
}

/** Of one student, the reading that gains most next: the one that leaves least variance. Null where none gains anything. */
function bestOf(of: Read, limits: readonly number[], room: (studentId: string, assessmentId: string) => number): Candidate | null {
  const { studentId, percent, variance, parts, read, chance } = of
  const square = (p: number, more: number) => (parts[p]!.weight * parts[p]!.error) ** 2 / (parts[p]!.readings + read[p]! + more)
  let [part, less] = [-1, 0]
  parts.forEach(({ assessmentId }, p) => {
    const by = square(p, 0) - square(p, 1)
    if (by > less && read[p]! < room(studentId, assessmentId)) [part, less] = [p, by]
  })
  if (part < 0) return null
  const left = parts.reduce((s, _, p) => s + square(p, p === part ? 1 : 0), 0)
  const chanceAfter = rightGrade(percent, variance, left, limits)
  const gain = chanceAfter - chance
  if (gain <= LEAST_GAIN) return null
  const { assessmentId, readings } = parts[part]!
  return { found: { studentId, assessmentId, readings: readings + read[part]!, gain, chance, chanceAfter }, of, part }
}

/**
 * The chance that the grade given once more is known will be the right one, before it is known: the true percent lies normally around the
 * percent as it stands, and what will then stand lies so that `left` of the variance remains around it.
 * @param percent as it stands
 * @param variance of the true percent around it now, above 0
 * @param left of that variance once more is known; 0..variance
 * @param limits least percents of the grades, the best first; the end grades are open
 */
export function rightGrade(percent: number, variance: number, left: number, limits: readonly number[]): number {
  const [moves, rest] = [Math.sqrt(Math.max(0, variance - left)), Math.sqrt(left)]
  let right = 0
  for (let g = 0; g < limits.length; g++) {
    const from = g === limits.length - 1 ? -Infinity : limits[g]!
    const to = g === 0 ? Infinity : limits[g - 1]!
    const within = (then: number) => cdf(to - then, rest) - cdf(from - then, rest)
    if (moves === 0) right += percent >= from && percent < to ? within(percent) : 0
    else
      right += integral(
        (z) => DENSITY * Math.exp((-z * z) / 2) * within(percent + moves * z),
        (from - percent) / moves,
        (to - percent) / moves,
      )
  }
  return right
}

const cdf = (off: number, se: number): number =>
  off === Infinity ? 1 : off === -Infinity ? 0 : se === 0 ? (off >= 0 ? 1 : 0) : normalCdf(off, 0, se)
const DENSITY = 1 / Math.sqrt(2 * Math.PI)

/** Beyond so many standard deviations lies less than 1e-9 of a normal distribution. */
const FAR = 6.2
/** How long a step may be for the nodes to be exact to 1e-10: what is integrated changes no faster than the normal density. */
const STEP = 2.5
/** Nodes and weights of Gauss and Legendre with ten points on −1..1; Abramowitz & Stegun 1964, table 25.4. */
const NODES = [0.148874338981631, 0.433395394129247, 0.679409568299024, 0.865063366688985, 0.973906528517172]
const WEIGHTS = [0.295524224714753, 0.269266719309996, 0.219086362515982, 0.149451349150581, 0.066671344308688]

/** Of a smooth function over the part of a range that matters for a standard normal. */
function integral(f: (z: number) => number, from: number, to: number): number {
  const [low, high] = [Math.max(from, -FAR), Math.min(to, FAR)]
  if (!(low < high)) return 0
  const steps = Math.ceil((high - low) / STEP)
  const half = (high - low) / steps / 2
  let sum = 0
  for (let s = 0; s < steps; s++) {
    const middle = low + (2 * s + 1) * half
    for (let n = 0; n < NODES.length; n++) sum += WEIGHTS[n]! * (f(middle - half * NODES[n]!) + f(middle + half * NODES[n]!))
  }
  return sum * half
}
