import {
  gradeAt,
  gradeCourse,
  percentOf,
  spreadOf,
  toCourse,
  withinTolerance,
  type AgreeRule,
  type HandedInReading,
  type StandingMark,
} from '#core'
import type { Assessment } from '#contract'
import type { Course } from '../../frame/course'

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

/** Whether a script's readings have to be settled, or were: two or more of them, or one beside another mark that was typed. */
export const isToSettle = (readings: readonly HandedInReading[], standing: Pick<StandingMark, 'source'>): boolean =>
  readings.length > 1 || (readings.length > 0 && (standing.source === 'clash' || standing.source === 'agreed'))

/** Scripts of an assessment to settle: open ones by spread against tolerance, then the settled. */
export function readingRows({ workings, tried: triedWorkings, current, trial }: Course, assessment: Assessment): QueueRow[] {
  const readings = new Map<string, HandedInReading[]>()
  for (const r of workings.readings) {
    const list = readings.get(r.scriptId)
    if (list) list.push(r)
    else readings.set(r.scriptId, [r])
  }
  const typedIn = new Map(workings.scripts.flatMap((s) => (s.entered === null ? [] : [[s.id, s.entered]])))
  const tried = new Set(trial.changes.flatMap((c) => (c.kind === 'settle' ? c.scriptId : [])))
  const rows = current.standing.flatMap((s): QueueRow[] => {
    const own = s.assessmentId === assessment.id ? readings.get(s.scriptId) : undefined
    if (!own || !isToSettle(own, s)) return []
    const entered = typedIn.get(s.scriptId) ?? null
    const typed = entered !== null && own.some((r) => Math.abs(r.mark - entered) > 1e-9) ? entered : null
    const spread = spreadOf(typed === null ? own : [...own, { markerId: '', mark: typed }]) ?? 0
    // What somebody typed against a reading is settled by a person, however near it is.
    const over = typed !== null || !withinTolerance(spread, assessment.tolerance)
    return [
      {
        scriptId: s.scriptId,
        studentId: s.studentId,
        readings: own,
        spread,
        over,
        typed,
        agreed: s.source === 'agreed' ? s.plain : null,
        trying: tried.has(s.scriptId),
        stake: [null, null],
      },
    ]
  })
  const course = toCourse(triedWorkings)
  const marksOf = new Map<string, StandingMark[]>()
  for (const s of current.standing) {
    const list = marksOf.get(s.studentId)
    if (list) list.push(s)
    else marksOf.set(s.studentId, [s])
  }
  for (const row of rows)
    if (row.over || row.agreed === null) {
      const gradeWith = (mark: number) => {
        const marks = marksOf.get(row.studentId)!.map((m) => (m.scriptId === row.scriptId ? { ...m, mark } : m))
        const student = gradeCourse({ ...course, students: course.students.filter((s) => s.id === row.studentId), marks }).students[0]!
        const percent = percentOf(student)
        return student.grade ?? (percent === null ? null : gradeAt(percent, course.boundaries, course.policy.rounding))
      }
      const marks = [...row.readings.map((r) => r.mark), ...(row.typed === null ? [] : [row.typed])]
      row.stake = [gradeWith(Math.min(...marks)), gradeWith(Math.max(...marks))]
    }
  const open = (r: QueueRow) => r.agreed === null || r.trying
  return rows.sort((a, b) => Number(open(b)) - Number(open(a)) || b.spread - a.spread || (a.studentId < b.studentId ? -1 : 1))
}

/** Keeps the mark that was typed, as a mark of the lead's own. */
export const keepTyped = (mark: number): AgreeRule => ({ kind: 'value', mark, reason: 'The mark typed in the sheet stands' })
