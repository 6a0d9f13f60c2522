import { applyingExceptions, type DuePlacement, type Stay } from '#core/roll'
import type { PlanCore } from './load-plan'

interface Placed {
  list: DuePlacement[]
  pairs: Set<string>
}
const placedIn = new WeakMap<PlanCore['placements'], Placed>()

function placed({ placements, assessments, sections }: PlanCore): Placed {
  const before = placedIn.get(placements)
  if (before) return before
  const list = placements.map(([a, s, due]) => ({ assessmentId: assessments[a]!.id, sectionId: sections[s]!.id, due }))
  const made = { list, pairs: new Set(list.map((p) => `${p.assessmentId} ${p.sectionId}`)) }
  placedIn.set(placements, made)
  return made
}

/** Tells whether an assessment applies to a student by placement, without reading the course's marks. */
export function appliesTo(plan: PlanCore, staysOf: (studentId: string) => Stay[]) {
  const { list, pairs } = placed(plan)
  return (student: { id: string; sectionId: string }, assessmentId: string): boolean => {
    const stays = staysOf(student.id)
    const out = plan.leftOut[assessmentId]?.includes(student.id)
    if (!out && stays.length < 2) return pairs.has(`${assessmentId} ${student.sectionId}`)
    const [own] = applyingExceptions({
      students: [student],
      placements: list,
      stays: { [student.id]: stays },
      leftOut: plan.leftOut,
    }).values()
    return own?.has(assessmentId) ?? pairs.has(`${assessmentId} ${student.sectionId}`)
  }
}
