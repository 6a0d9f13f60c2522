import type { Course, MarkRow, Status } from '../grades/course'
import { applyingExceptions, type DuePlacement } from '../roll/applying'
import type { Stay } from '../roll/stays'
import { applyAdjustments, type Adjustment } from '../rescale/adjustments'

/** One student's work for one assessment, as far as its mark goes. */
export interface ScriptMark {
  id: string
  studentId: string
  assessmentId: string
  status: Status
  daysLate: number
  /** Mark typed into the sheet or brought in from a file; null where the mark comes from readings. */
  entered: number | null
}

export interface HandedInReading {
  scriptId: string
  markerId: string
  mark: number
}

/** All that standing marks and grades follow from. */
export interface Workings {
  course: Omit<Course, 'marks' | 'placements'> & { placements: DuePlacement[] }
  /** Times in sections of the students who have been in more than one. */
  stays: Record<string, Stay[]>
  /** Assessment id → students left out of it. */
  leftOut: Record<string, string[]>
  scripts: ScriptMark[]
  /** In the order they were handed in. */
  readings: HandedInReading[]
  /** Script id → the agreed mark in force. */
  agreed: Record<string, number>
  /** The stack, in order. */
  adjustments: Adjustment[]
  /** Assessment id → how many readings a script needs before it has a mark. */
  readingsWanted: Record<string, number>
}

export interface StandingMark {
  scriptId: string
  studentId: string
  assessmentId: string
  status: Status
  daysLate: number
  /** Where the plain mark comes from; `open` where readings wait to be settled or made, `clash` where a typed mark and a reading disagree. */
  source: 'agreed' | 'entered' | 'reading' | 'open' | 'clash' | 'none'
  /** Before adjustments. */
  plain: number | null
  /** What counts. */
  mark: number | null
  steps: readonly { adjustmentId: string; mark: number }[]
}

/** Marks this near are the same: a rubric's total scaled to what it is marked out of has no end of decimals. */
const SAME = 1e-9

/** Statuses under which a script has work to mark. */
export const hasWork = (status: Status): boolean => status === 'in' || status === 'late' || status === 'held'

/**
 * The marks that stand: agreed, else entered, else the only reading wanted; then through the adjustments.
 * A script that wants two readings or more has no mark until one is agreed; nor has one with a typed mark that a reading
 * handed in does not bear out, until a person says which of them stands.
 */
export function standingMarks(w: Workings): StandingMark[] {
  const sectionOf = new Map(w.course.students.map((s) => [s.id, s.sectionId]))
  const outOf = new Map(w.course.assessments.map((a) => [a.id, a.outOf]))
  // A map and not the record: looking hundreds of thousands of ids up as property names takes seconds.
  const agreedOf = new Map(Object.entries(w.agreed))
  const wanted = new Map(Object.entries(w.readingsWanted))
  const readingsOf = new Map<string, number[]>()
  for (const r of w.readings) {
    const list = readingsOf.get(r.scriptId)
    if (list) list.push(r.mark)
    else readingsOf.set(r.scriptId, [r.mark])
  }

  const plain = w.scripts.map((s): StandingMark => {
    if (!hasWork(s.status)) return standing(s, 'none', null)
    const agreed = agreedOf.get(s.id)
    if (agreed !== undefined) return standing(s, 'agreed', agreed)
    const read = readingsOf.get(s.id)
    if (s.entered !== null)
      return read?.some((mark) => Math.abs(mark - s.entered!) > SAME) ? standing(s, 'clash', null) : standing(s, 'entered', s.entered)
    if (!read) return standing(s, 'none', null)
    return (wanted.get(s.assessmentId) ?? 1) <= 1 ? standing(s, 'reading', read[0]!) : standing(s, 'open', null)
  })
  const adjusting = new Set(w.adjustments.flatMap((a) => (a.on ? [a.assessmentId] : [])))
  if (adjusting.size === 0) return plain

  const at = plain.flatMap((p, i) => (adjusting.has(p.assessmentId) ? [i] : []))
  const adjusted = applyAdjustments(
    at.map((i) => {
      const { studentId, assessmentId, mark } = plain[i]!
      return { studentId, assessmentId, sectionId: sectionOf.get(studentId) ?? '', mark }
    }),
    // The plan in force says what an assessment is marked out of, not the day the adjustment was made.
    w.adjustments.map((a) => ({ ...a, outOf: outOf.get(a.assessmentId) ?? a.outOf })),
  )
  at.forEach((place, i) => {
    plain[place] = { ...plain[place]!, mark: adjusted[i]!.mark, steps: adjusted[i]!.steps }
  })
  return plain
}

const NO_STEPS: StandingMark['steps'] = []

// Written out: copies of copies cost a department of 12,000 students seconds.
function standing(s: ScriptMark, source: StandingMark['source'], mark: number | null): StandingMark {
  return {
    scriptId: s.id,
    studentId: s.studentId,
    assessmentId: s.assessmentId,
    status: s.status,
    daysLate: s.daysLate,
    source,
    plain: mark,
    mark,
    steps: NO_STEPS,
  }
}

/**
 * The course as the grade engine takes it. Who moved or is left out of something stands in a section of their own,
 * with the placements that apply to them.
 */
export function toCourse(w: Workings, standing: StandingMark[] = standingMarks(w)): Course {
  const marks = standing.map((s): MarkRow => ({
    studentId: s.studentId,
    assessmentId: s.assessmentId,
    mark: s.mark,
    status: s.status,
    daysLate: s.daysLate,
  }))
  const exceptions = applyingExceptions({ ...w.course, stays: w.stays, leftOut: w.leftOut })
  if (exceptions.size === 0) return { ...w.course, marks }
  const own = (studentId: string) => `only ${studentId}`
  return {
    ...w.course,
    students: w.course.students.map((s) => (exceptions.has(s.id) ? { ...s, sectionId: own(s.id) } : s)),
    placements: [
      ...w.course.placements,
      ...[...exceptions].flatMap(([id, applies]) => [...applies.keys()].map((assessmentId) => ({ assessmentId, sectionId: own(id) }))),
    ],
    marks,
  }
}
