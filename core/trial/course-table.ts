import { STATUSES, type Boundary, type Course, type Policy } from '../grades/course'
import type { Adjustment } from '../rescale/adjustments'
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
  placements: Course['placements']
  scripts: { id: string[]; student: number[]; assessment: number[]; status: number[]; daysLate: number[]; entered: (number | null)[] }
  readings: { script: number[]; marker: number[]; mark: number[] }
  agreed: Record<string, number>
  adjustments: Adjustment[]
}

/** The workings of a course that came as a table. A weight or worth never typed in carries nothing. */
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
      placements: t.placements.map(({ assessmentId, sectionId }) => ({ assessmentId, sectionId })),
      students: t.students.map(({ id, sectionId }) => ({ id, sectionId })),
    },
    scripts: t.scripts.id.map((id, i) => ({
      id,
      studentId: t.students[t.scripts.student[i]!]!.id,
      assessmentId: t.assessments[t.scripts.assessment[i]!]!.id,
      status: STATUSES[t.scripts.status[i]!]!,
      daysLate: t.scripts.daysLate[i]!,
      entered: t.scripts.entered[i]!,
    })),
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
