import { spreadOf, withinTolerance, type AgreeRule } from '#core/agree'
import { gradeAt } from '#core/bounds'
import { gradeCourse } from '#core/grades'
import { percentOf } from '#core/rescale'
import {
  courseOfStudent,
  readingPlaces,
  readingsOf,
  saysTheSame,
  SOURCES,
  standingOf,
  type HandedInReading,
  type Source,
  type StandingMark,
} from '#core/trial'
import type { Assessment } from '#contract'
import type { CourseState } from '../../course/state'

export interface QueueRow {
  scriptId: string
  studentId: string
  readings: HandedInReading[]
  /** Between its readings, and the mark that was typed where they do not bear it out. */
  spread: number
  over: boolean
  /** The mark typed in the sheet that the readings do not bear out; null where there is none. */
  typed: number | null
  agreed: number | null
  /** The agreed mark is being tried, not adopted. */
  trying: boolean
  /** Grades that the lowest and the highest reading would lead to. */
  stake: [string | null, string | null]
}

/** What waits to be settled in one assessment, and which there are. */
export interface ReadingQueue {
  /** Assessments with something to settle or settled, in the order of the plan. */
  toSettle: string[]
  assessmentId: string | null
  rows: QueueRow[]
}

/** Whether a script's readings have to be settled, or were: two or more of them, or one beside another mark that was typed. */
const isToSettle = (readings: number, source: Source): boolean =>
  readings > 1 || (readings > 0 && (source === 'clash' || source === 'agreed'))

function assessmentsToSettle({ workings, adopted }: CourseState): string[] {
  const { cells } = workings
  const { from } = readingPlaces(workings)
  const found = new Uint8Array(cells.width)
  for (let c = 0; c < cells.count; c++) {
    const read = from[c + 1]! - from[c]!
    if (read > 0 && isToSettle(read, SOURCES[adopted.standing.source[c]!]!)) found[c % cells.width] = 1
  }
  return cells.assessmentIds.filter((_, a) => found[a])
}

/** The queue of an assessment, of the first one with something to settle where none is named. */
export function readingQueueOf(state: CourseState, wanted: string | null): ReadingQueue {
  const toSettle = assessmentsToSettle(state)
  const assessmentId = toSettle.find((id) => id === wanted) ?? toSettle[0] ?? null
  const assessment = state.table.assessments.find((a) => a.id === assessmentId)
  return { toSettle, assessmentId, rows: assessment ? readingRows(state, assessment) : [] }
}

/** Scripts of an assessment to settle: open ones by spread against tolerance, then the settled. */
function readingRows(state: CourseState, assessment: Assessment): QueueRow[] {
  const { workings, current, changes } = state
  const tried = new Set(changes.flatMap((c) => (c.kind === 'settle' ? c.scriptId : [])))
  const rows = standingOf(workings, current.standing, assessment.id).flatMap((s): QueueRow[] => {
    const readings = readingsOf(workings, s.cell)
    if (!isToSettle(readings.length, s.source)) return []
    const entered = workings.scripts.entered[s.cell]!
    const typed = readings.some((r) => !Number.isNaN(entered) && !saysTheSame(r.mark, entered)) ? entered : null
    const spread = spreadOf(typed === null ? readings : [...readings, { markerId: '', mark: typed }]) ?? 0
    // What somebody typed against a reading is settled by a person, however near it is.
    const over = typed !== null || !withinTolerance(spread, assessment.tolerance)
    const agreed = s.source === 'agreed' ? s.plain : null
    const marks = [...readings.map((r) => r.mark), ...(typed === null ? [] : [typed])]
    const gradeWith = over || agreed === null ? gradesOf(state, s) : null
    return [
      {
        scriptId: s.scriptId,
        studentId: s.studentId,
        readings,
        spread,
        over,
        typed,
        agreed,
        trying: tried.has(s.scriptId),
        stake: gradeWith ? [gradeWith(Math.min(...marks)), gradeWith(Math.max(...marks))] : [null, null],
      },
    ]
  })
  const open = (r: QueueRow) => r.agreed === null || r.trying
  return rows.sort((a, b) => Number(open(b)) - Number(open(a)) || b.spread - a.spread || (a.studentId < b.studentId ? -1 : 1))
}

/** The grade that a student would get by another mark in one cell. */
function gradesOf({ tried, current }: CourseState, { studentId, assessmentId }: StandingMark): (mark: number) => string | null {
  const course = courseOfStudent(tried, current.standing, studentId)
  return (mark) => {
    const marks = course.marks.map((m) => (m.assessmentId === assessmentId ? { ...m, mark } : m))
    const student = gradeCourse({ ...course, marks }).students[0]!
    const percent = percentOf(student)
    return student.grade ?? (percent === null ? null : gradeAt(percent, course.boundaries, course.policy.rounding))
  }
}

/** Keeps the mark that was typed, as a mark of the lead's own. */
export const keepTyped = (mark: number): AgreeRule => ({ kind: 'value', mark, reason: 'The mark typed in the sheet stands' })
