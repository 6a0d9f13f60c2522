import type { Day } from './days'
import type { DuePlacement } from './applying'

/** What applies to students who differ from their section, each assessment with the day it is due for them. */
export type Exceptions = Readonly<Record<string, Readonly<Record<string, Day | null>>>>

/** Tells of any student what is set for them and when it is due, by their section or by what differs for them. */
export function setFor({ placements, exceptions }: { placements: readonly DuePlacement[]; exceptions: Exceptions }) {
  const due = new Map(placements.map((p) => [`${p.assessmentId} ${p.sectionId}`, p.due]))
  return {
    isSet({ id, sectionId }: { id: string; sectionId: string }, assessmentId: string): boolean {
      const own = exceptions[id]
      return own ? assessmentId in own : due.has(`${assessmentId} ${sectionId}`)
    },
    /** Null where no day is set for them. */
    dueOf({ id, sectionId }: { id: string; sectionId: string }, assessmentId: string): Day | null {
      const own = exceptions[id]
      return (own ? own[assessmentId] : due.get(`${assessmentId} ${sectionId}`)) ?? null
    },
  }
}
