import { STATUSES, type Boundary, type Course, type Policy } from '../grades/course'
import type { Adjustment } from '../rescale/adjustments'
import type { DuePlacement } from '../roll/applying'
import type { Stay } from '../roll/stays'
import type { PlanFacts } from './open-items'
import type { Workings } from './workings'

/** A course as it travels: lists of what there is, and scripts and readings as columns of places in them. */
export interface TableLike {
  policy: Policy
  boundaries: Boundary[]
  students: { id: string; sectionId: string }[]
  markers: { id: string }[]
  components: (Omit<Course['components'][number], 'weight'> & { weight: number | null })[]
  assessments: (Omit<Course['assessments'][number], 'worth'> & { worth: number | null; readingsWanted: number; tolerance: number })[]
  placements: DuePlacement[]
  /** Times in sections of the students who have been in more than one. */
  stays: Record<string, Stay[]>
  /** Assessment id → students left out of it. */
  leftOut: Record<string, string[]>
  scripts: { id: string[]; student: number[]; assessment: number[]; status: number[]; daysLate: number[]; entered: (number | null)[] }
  readings: { script: number[]; marker: number[]; mark: number[] }
  agreed: Record<string, number>
  adjustments: Adjustment[]
}

/** The id of a student's script for an assessment. */
export const scriptIdOf = (assessmentId: string, studentId: string): string => `${assessmentId}:${studentId}`

/** Blank scripts for what is set for a student and has none yet: nothing was recorded, which is pending and not nothing. */
function blanks(t: TableLike): Workings['scripts'] {
  const width = t.assessments.length
  const has = new Uint8Array(t.students.length * width)
  t.scripts.student.forEach((student, i) => (has[student * width + t.scripts.assessment[i]!] = 1))
  const at = new Map(t.assessments.map((a, i) => [a.id, i]))
  const placedIn = new Map<string, number[]>()
  for (const p of t.placements) {
    const list = placedIn.get(p.sectionId)
    if (list) list.push(at.get(p.assessmentId)!)
    else placedIn.set(p.sectionId, [at.get(p.assessmentId)!])
  }
  const scripts: Workings['scripts'] = []
  t.students.forEach(({ id: studentId, sectionId }, s) => {
    const sections = t.stays[studentId]?.map((stay) => stay.sectionId) ?? [sectionId]
    for (const section of sections)
      for (const a of placedIn.get(section) ?? []) {
        if (has[s * width + a]) continue
        has[s * width + a] = 1
        const assessmentId = t.assessments[a]!.id
        scripts.push({ id: scriptIdOf(assessmentId, studentId), studentId, assessmentId, status: 'in', daysLate: 0, entered: null })
      }
  })
  return scripts
}

/**
 * The workings of a course that came as a table: its scripts in their order, then a blank one for all that is set
 * and has none. A weight or worth never typed in carries nothing.
 */
export function workingsOf(t: TableLike): Workings {
  return {
    course: {
      policy: t.policy,
      boundaries: t.boundaries,
      components: t.components.map(({ id, weight, combine, dropLowest, bonus }) => ({
        id,
        weight: weight ?? 0,
        combine,
        dropLowest,
        bonus,
      })),
      assessments: t.assessments.map(({ id, componentId, outOf, worth, counts, bonus, droppable }) => ({
        id,
        componentId,
        outOf,
        worth: worth ?? 0,
        counts,
        bonus,
        droppable,
      })),
      placements: t.placements.map(({ assessmentId, sectionId, due }) => ({ assessmentId, sectionId, due })),
      students: t.students.map(({ id, sectionId }) => ({ id, sectionId })),
    },
    stays: t.stays,
    leftOut: t.leftOut,
    scripts: [
      ...t.scripts.id.map((id, i) => ({
        id,
        studentId: t.students[t.scripts.student[i]!]!.id,
        assessmentId: t.assessments[t.scripts.assessment[i]!]!.id,
        status: STATUSES[t.scripts.status[i]!]!,
        daysLate: t.scripts.daysLate[i]!,
        entered: t.scripts.entered[i]!,
      })),
      ...blanks(t),
    ],
    readings: t.readings.script.map((script, i) => ({
      scriptId: t.scripts.id[script]!,
      markerId: t.markers[t.readings.marker[i]!]!.id,
      mark: t.readings.mark[i]!,
    })),
    agreed: t.agreed,
    adjustments: t.adjustments,
    readingsWanted: Object.fromEntries(t.assessments.map((a) => [a.id, a.readingsWanted])),
  }
}

/** What of the plan openItems needs beside the workings. */
export function planFacts(t: Pick<TableLike, 'components' | 'assessments'>): PlanFacts {
  return {
    weights: Object.fromEntries(t.components.map((c) => [c.id, c.weight])),
    worths: Object.fromEntries(t.assessments.map((a) => [a.id, a.worth])),
    tolerances: Object.fromEntries(t.assessments.map((a) => [a.id, a.tolerance])),
  }
}
