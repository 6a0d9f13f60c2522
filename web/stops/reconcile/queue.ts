import { gradeAt, gradeCourse, percentOf, spreadOf, toCourse, withinTolerance, type HandedInReading, type StandingMark } from '#core'
import type { Assessment } from '#contract'
import type { Course } from '../../frame/course'

export interface QueueRow {
  scriptId: string
  studentId: string
  readings: HandedInReading[]
  spread: number
  over: boolean
  agreed: number | null
  /** The agreed mark is being tried, not adopted. */
  trying: boolean
  /** Grades that the lowest and the highest reading would lead to. */
  stake: [string | null, string | null]
}

/** Scripts of an assessment with two readings or more: open ones by spread against tolerance, then the settled. */
export function readingRows({ workings, tried: triedWorkings, current, trial }: Course, assessment: Assessment): QueueRow[] {
  const readings = new Map<string, HandedInReading[]>()
  for (const r of workings.readings) {
    const list = readings.get(r.scriptId)
    if (list) list.push(r)
    else readings.set(r.scriptId, [r])
  }
  const tried = new Set(trial.changes.flatMap((c) => (c.kind === 'settle' ? c.scriptId : [])))
  const rows = current.standing.flatMap((s): QueueRow[] => {
    const own = s.assessmentId === assessment.id ? readings.get(s.scriptId) : undefined
    const spread = own ? spreadOf(own) : null
    if (!own || spread === null) return []
    const over = !withinTolerance(spread, assessment.tolerance)
    return [
      {
        scriptId: s.scriptId,
        studentId: s.studentId,
        readings: own,
        spread,
        over,
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
      const marks = row.readings.map((r) => r.mark)
      row.stake = [gradeWith(Math.min(...marks)), gradeWith(Math.max(...marks))]
    }
  const open = (r: QueueRow) => r.agreed === null || r.trying
  return rows.sort((a, b) => Number(open(b)) - Number(open(a)) || b.spread - a.spread || (a.studentId < b.studentId ? -1 : 1))
}
