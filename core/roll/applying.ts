import type { Placement } from '../grades/course'
import { placementFor } from './due-for'
import { sectionOn, type Stay } from './stays'

/** A placement with the day it is due; null where none is set. */
export interface DuePlacement extends Placement {
  due: string | null
}

export interface Applying {
  students: readonly { id: string; sectionId: string }[]
  placements: readonly DuePlacement[]
  /** Students who have been in more than one section; the others were always where they are. */
  stays: Readonly<Record<string, readonly Stay[]>>
  /** Assessment id → students left out of it. */
  leftOut: Readonly<Record<string, readonly string[]>>
}

/**
 * Which assessments apply to the students who differ from their section, who moved and who is left out, and when each is due for them.
 * For who moved, a placement applies where the student was in its section on the day it was due, or where it has no
 * date yet and the section is theirs now. What is set for every section they were in applies whatever the dates,
 * so that nobody slips between two of them.
 */
export function applyingExceptions({ students, placements, stays, leftOut }: Applying): Map<string, Map<string, string | null>> {
  const exceptions = new Map<string, Map<string, string | null>>()
  const out = new Map<string, Set<string>>()
  for (const [assessmentId, ids] of Object.entries(leftOut))
    for (const id of ids) {
      const own = out.get(id)
      if (own) own.add(assessmentId)
      else out.set(id, new Set([assessmentId]))
    }
  const different = students.filter((s) => out.has(s.id) || (stays[s.id]?.length ?? 0) > 1)
  if (different.length === 0) return exceptions
  const byAssessment = new Map<string, DuePlacement[]>()
  for (const p of placements) {
    const list = byAssessment.get(p.assessmentId)
    if (list) list.push(p)
    else byAssessment.set(p.assessmentId, [p])
  }
  for (const student of different) {
    const own = stays[student.id] ?? []
    const applies = new Map<string, string | null>()
    for (const [assessmentId, list] of byAssessment) {
      if (out.get(student.id)?.has(assessmentId)) continue
      const now = list.find((p) => p.sectionId === student.sectionId)
      const moved = own.length > 1
      const there = moved && list.some((p) => p.due !== null && sectionOn(own, p.due) === p.sectionId)
      const throughout = own.every((stay) => list.some((p) => p.sectionId === stay.sectionId))
      if (there || (now && (!moved || now.due === null || throughout)))
        applies.set(assessmentId, placementFor(list, own, student.sectionId)?.due ?? null)
    }
    exceptions.set(student.id, applies)
  }
  return exceptions
}

/** Tells whether an assessment applies to a student by placement: status and policy come after. */
export function appliesIn(course: Applying): (studentId: string, assessmentId: string) => boolean {
  const exceptions = applyingExceptions(course)
  const placed = new Set(course.placements.map((p) => `${p.assessmentId} ${p.sectionId}`))
  const sectionOf = new Map(course.students.map((s) => [s.id, s.sectionId]))
  return (studentId, assessmentId) =>
    exceptions.get(studentId)?.has(assessmentId) ?? placed.has(`${assessmentId} ${sectionOf.get(studentId)}`)
}
