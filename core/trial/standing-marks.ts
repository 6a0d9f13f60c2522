import { agreeMark, spreadOf, withinTolerance } from '../agree/agree-mark'
import type { StandingRule } from '../agree/standing-rule'
import { partOf, STATUSES, type Condition, type Course, type MarkRow, type Status, type TotalAdjustment } from '../grades/course'
import { orNull } from '../grades/grade-table'
import { isForTotal } from '../rescale/methods'
import { throughAdjustments } from './rescaled-marks'
import type { Standing, Step } from './standing'
import { appliesGrid, exceptionsOf, NO_SCRIPT, readingPlaces, readingsOf, type HandedInReading, type Workings } from './workings'

/** Where a plain mark comes from; `ruled` by its assessment’s standing rule, `open` where readings wait to be settled or made, `clash` where a typed mark and a reading disagree. */
export const SOURCES = ['none', 'agreed', 'entered', 'reading', 'open', 'clash', 'ruled'] as const
export type Source = (typeof SOURCES)[number]

const [NONE, AGREED, ENTERED, READING, OPEN, CLASH, RULED] = SOURCES.map((_, i) => i) as [
  number,
  number,
  number,
  number,
  number,
  number,
  number,
]

/** One cell of what stands. */
export interface StandingMark {
  cell: number
  scriptId: string
  studentId: string
  assessmentId: string
  status: Status
  daysLate: number
  source: Source
  plain: number | null
  mark: number | null
  steps: readonly Step[]
}

/** Marks this near are the same: a rubric's total scaled to what it is marked out of has no end of decimals. */
const SAME = 1e-9

/** Whether a typed mark and a reading say the same. */
export const saysTheSame = (a: number, b: number): boolean => Math.abs(a - b) <= SAME

/** Statuses under which a script has work to mark. */
export const hasWork = (status: Status): boolean => status === 'in' || status === 'late' || status === 'held'
export const HAS_WORK = STATUSES.map(hasWork)

/** Where a script's plain mark comes from, as a place in SOURCES. Its readings are `marks[at[first]] … marks[at[end − 1]]`. */
function sourceOf(
  agreed: number | undefined,
  reopened: boolean,
  typed: number,
  wanted: number,
  marks: ArrayLike<number>,
  places: ArrayLike<number>,
  first: number,
  end: number,
): number {
  if (agreed !== undefined) return AGREED
  if (typed === typed) {
    for (let i = first; i < end; i++) if (!saysTheSame(marks[places[i]!]!, typed)) return CLASH
    return ENTERED
  }
  return first === end ? NONE : wanted <= 1 && !reopened ? READING : OPEN
}

/** Stands the plain marks of cells by their sources. */
function standing(w: Workings, source: Uint8Array, plain: Float64Array): (cell: number) => void {
  const { cells, scripts, readings, agreed, reopened } = w
  const { from, places } = readingPlaces(w)
  const applies = appliesGrid(w)
  const wanted = cells.assessmentIds.map((id) => w.readingsWanted[id] ?? 1)
  return (c) => {
    source[c] = NONE
    plain[c] = NaN
    if (scripts.there[c] === NO_SCRIPT || applies[c] === 0 || !HAS_WORK[scripts.status[c]!]) return
    const typed = scripts.entered[c]!
    const settled = agreed.size === 0 ? undefined : agreed.get(c)
    const first = from[c]!
    const s = (source[c] = sourceOf(settled, reopened.has(c), typed, wanted[c % cells.width]!, readings.mark, places, first, from[c + 1]!))
    if (s === AGREED) plain[c] = settled!
    else if (s === ENTERED) plain[c] = typed
    else if (s === READING) plain[c] = readings.mark[places[first]!]!
    else if (s === OPEN && !reopened.has(c)) {
      const ruled = byRule(w, cells.assessmentIds[c % cells.width]!, () => readingsOf(w, c))
      if (ruled === null) return
      source[c] = RULED
      plain[c] = ruled
    }
  }
}

/** What an assessment’s standing rule gives for readings: as many as are wanted, within its tolerance; null where a person settles them. */
function byRule(
  w: Pick<Workings, 'agreeBy' | 'agreeing' | 'readingsWanted'>,
  assessmentId: string,
  readingsNow: () => readonly HandedInReading[],
): number | null {
  const rule = w.agreeBy[assessmentId]
  if (rule === undefined) return null
  const readings = readingsNow()
  const { tolerance, step } = w.agreeing[assessmentId]!
  const spread = spreadOf(readings)
  if (spread === null || readings.length < (w.readingsWanted[assessmentId] ?? 1) || !withinTolerance(spread, tolerance)) return null
  return agreeMark(readings, { kind: rule }, step).mark
}

/**
 * The marks that stand: agreed, else entered, else the only reading wanted; then through the adjustments.
 * A script that wants two readings or more has no mark until one is agreed, by a person or by its assessment’s standing rule; nor has one with a typed mark that a reading
 * handed in does not bear out, until a person says which of them stands. What is not set for a student, or what they are left out of,
 * has none.
 */
export function standingMarks(w: Workings): Standing {
  const { count } = w.cells
  const source = new Uint8Array(count)
  const plain = new Float64Array(count)
  const stand = standing(w, source, plain)
  for (let c = 0; c < count; c++) stand(c)
  return throughAdjustments(w, source, plain)
}

/**
 * What stands after some scripts, and nothing else, have changed.
 * @returns null where one of them is rescaled: what that makes of a mark may depend on all the others
 */
export function standingAfter(was: Standing, w: Workings, cells: readonly number[]): Standing | null {
  const rescaled = new Set(w.adjustments.flatMap((a) => (a.on ? a.assessmentId : [])))
  if (cells.some((c) => rescaled.has(w.cells.assessmentId(c)))) return null
  const source = was.source.slice()
  const plain = was.plain.slice()
  const mark = was.mark === was.plain ? plain : was.mark.slice()
  const stand = standing(w, source, plain)
  for (const c of cells) {
    stand(c)
    mark[c] = plain[c]!
  }
  return { source, plain, mark, steps: was.steps }
}

/** What one script comes to before it is rescaled, by the same rule; null for no mark. */
export function plainMark(script: {
  status: Status
  entered: number | null
  agreed: number | undefined
  /** It was settled and opened again since. */
  reopened: boolean
  /** In the order they were handed in. */
  readings: readonly number[]
  wanted: number
  /** The standing rule of its assessment, where there is one. */
  rule?: { rule: StandingRule; tolerance: number; step: number | null } | undefined
}): number | null {
  if (!hasWork(script.status)) return null
  const { entered, agreed, reopened, readings, wanted } = script
  const places = readings.map((_, i) => i)
  const source = sourceOf(agreed, reopened, entered ?? NaN, wanted, readings, places, 0, readings.length)
  if (source === OPEN && !reopened && script.rule) {
    const { rule, ...agreeing } = script.rule
    const own = { agreeBy: { own: rule }, agreeing: { own: agreeing }, readingsWanted: { own: wanted } }
    return byRule(own, 'own', () => readings.map((mark, i) => ({ markerId: String(i), mark })))
  }
  return source === AGREED ? agreed! : source === ENTERED ? entered : source === READING ? readings[0]! : null
}

const NONE_TAKEN: readonly Step[] = []

/** One cell of what stands, in words; null where there is no script. */
export function standingAt(w: Workings, standing: Standing, cell: number): StandingMark | null {
  if (cell < 0 || w.scripts.there[cell] === NO_SCRIPT) return null
  return {
    cell,
    scriptId: w.cells.scriptId(cell),
    studentId: w.cells.studentId(cell),
    assessmentId: w.cells.assessmentId(cell),
    status: STATUSES[w.scripts.status[cell]!]!,
    daysLate: w.scripts.daysLate[cell]!,
    source: SOURCES[standing.source[cell]!]!,
    plain: orNull(standing.plain[cell]!),
    mark: orNull(standing.mark[cell]!),
    steps:
      standing.steps
        .get(cell % w.cells.width)?.()
        .get(cell) ?? NONE_TAKEN,
  }
}

/** What stands of one assessment, student by student in the course's order. */
export function standingOf(w: Workings, standing: Standing, assessmentId: string): StandingMark[] {
  const { width, count } = w.cells
  const column = w.cells.assessment(assessmentId)
  const found: StandingMark[] = []
  if (column >= 0)
    for (let cell = column; cell < count; cell += width) {
      const one = standingAt(w, standing, cell)
      if (one) found.push(one)
    }
  return found
}

/** All that stands, student by student. */
export const standingRows = (w: Workings, standing: Standing = standingMarks(w)): StandingMark[] =>
  w.cells.studentIds.flatMap((id) => standingOfStudent(w, standing, id))

/** What stands of one student, in the order of the plan. */
export function standingOfStudent(w: Workings, standing: Standing, studentId: string): StandingMark[] {
  const row = w.cells.student(studentId)
  if (row < 0) return []
  return w.cells.assessmentIds.flatMap((_, a) => standingAt(w, standing, row * w.cells.width + a) ?? [])
}

const rowOf = ({ studentId, assessmentId, mark, status, daysLate }: StandingMark): MarkRow => ({
  studentId,
  assessmentId,
  mark,
  status,
  daysLate,
})

/** The adjustments of the course percent that are on. */
export const totalAdjustments = (w: Pick<Workings, 'adjustments'>): TotalAdjustment[] =>
  w.adjustments.flatMap(({ assessmentId, on, method, neverLower }) =>
    on && assessmentId === null && isForTotal(method) ? [{ method, neverLower }] : [],
  )

const ownSection = (studentId: string) => `only ${studentId}`

/** The plan and roll as the grade engine takes them. Who moved or is left out of something stands in a section of their own, with the placements that apply to them. */
export function planForGrades(w: Workings): Omit<Course, 'marks'> {
  const exceptions = exceptionsOf(w)
  const course = { ...w.course, adjustments: totalAdjustments(w), conditions: conditionsInForce(w) }
  if (exceptions.size === 0) return course
  return {
    ...course,
    students: w.course.students.map((s) => (exceptions.has(s.id) ? { ...s, sectionId: ownSection(s.id) } : s)),
    placements: [
      ...w.course.placements,
      ...[...exceptions].flatMap(([id, applies]) =>
        [...applies.keys()].map((assessmentId) => ({ assessmentId, sectionId: ownSection(id) })),
      ),
    ],
  }
}

/** The conditions on what the course has: one on a grade or a part that is no more asks nothing. */
function conditionsInForce({ course: { conditions, boundaries, components, assessments } }: Workings): Condition[] {
  const grades = new Set(boundaries.map((b) => b.grade))
  const parts = new Set([...components, ...assessments].map((p) => p.id))
  return conditions.filter((c) => grades.has(c.atMost) && parts.has(partOf(c)))
}

/** The course as rows of marks, for a look at it one by one; whole courses are graded by `gradeWorkings`. */
export function toCourse(w: Workings, standing: Standing = standingMarks(w)): Course {
  return { ...planForGrades(w), marks: standingRows(w, standing).map(rowOf) }
}

/** The course with one student in it, and what is set for them, so that a grade is explained or tried without the others. */
export function courseOfStudent(w: Workings, standing: Standing, studentId: string): Course {
  const { cells, course } = w
  const row = cells.student(studentId)
  const applies = appliesGrid(w)
  const sectionId = course.students[row]!.sectionId
  return {
    ...course,
    adjustments: totalAdjustments(w),
    conditions: conditionsInForce(w),
    students: [{ id: studentId, sectionId }],
    placements: cells.assessmentIds.flatMap((assessmentId, a) => (applies[row * cells.width + a] ? [{ assessmentId, sectionId }] : [])),
    marks: standingOfStudent(w, standing, studentId).map(rowOf),
  }
}
