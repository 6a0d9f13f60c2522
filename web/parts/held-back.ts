import type { CourseState } from '../course/state'

export interface HeldBack {
  conditionId: string
  /** Whose grade it takes down, with the grade of their percent and the one they have. */
  held: { studentId: string; percent: number; has: number | null; from: string; to: string }[]
  /** Who has less than it asks for and whose grade is no better than it allows. */
  unmet: number
}

/** Who is held back by what, under the conditions and lines of the trial. */
export function heldBack({ tried: w, current }: CourseState): HeldBack[] {
  const { result } = current
  const sorted = [...result.boundaries].sort((a, b) => b.from - a.from)
  const order = new Map(w.course.components.map((c, i) => [c.id, i]))
  const at = new Map(w.cells.assessmentIds.map((id, i) => [id, i]))
  return w.course.conditions.map((condition) => {
    // Those on what is no more are not in force, and so not in the result.
    const place = result.conditions.indexOf(condition)
    const found: HeldBack = { conditionId: condition.id, held: [], unmet: 0 }
    if (place < 0) return found
    result.students.forEach((s, row) => {
      if (!s.unmet.includes(place)) return
      if (!s.heldBy.includes(place)) {
        found.unmet++
        return
      }
      let has: number | null
      if ('componentId' in condition) has = result.componentsAt(row)[order.get(condition.componentId)!]?.percent ?? null
      else {
        const a = at.get(condition.assessmentId)!
        has = (100 * (current.standing.mark[row * w.cells.width + a] || 0)) / w.course.assessments[a]!.outOf
      }
      found.held.push({
        studentId: s.studentId,
        percent: s.rounded!,
        has,
        from: sorted.find((b) => s.rounded! >= b.from)!.grade,
        to: s.grade!,
      })
    })
    return found
  })
}
