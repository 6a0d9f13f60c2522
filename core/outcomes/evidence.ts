import { group } from 'd3-array'
import { placementsBySection } from '../roll/due-for'
import { STATUSES } from '../grades/course'
import { appliesGrid, NO_SCRIPT, type Workings } from '../trial/workings'
import { levelInProportion, lowerMedian, placeOf } from './level-of'
import type { Evidence } from './outcome-standing'

/** Statuses under which what was read of a script is a result. */
const TELLS = STATUSES.map((s) => s === 'in' || s === 'late')

/** What gives evidence of an outcome: a criterion of an assessment, or its overall judgement. */
export interface EvidenceLink {
  outcomeId: string
  assessmentId: string
  /** Null for the overall judgement, which is read off the mark. */
  criterionId: string | null
  /** What it is called there. */
  title: string
  /** Points, or marks, at which each of its levels begins, from the lowest up. */
  from: number[]
}

/** The handed-in readings of an assessment, criterion by criterion. */
export interface JudgedPoints {
  assessmentId: string
  criteria: readonly { id: string }[]
  students: readonly string[]
  student: ArrayLike<number>
  /** What each reading came to. */
  mark: ArrayLike<number>
  /** A column for each criterion; NaN where nothing was judged. */
  points: readonly ArrayLike<number>[]
  /** What was agreed on, criterion by criterion, in the place of the readings. */
  agreed: { student: ArrayLike<number>; points: readonly ArrayLike<number>[] }
}

/** One result with where it comes from. */
export interface FoundEvidence extends Evidence {
  assessmentId: string
  criterionId: string | null
  scriptId: string
}

/**
 * All results of all students on the outcomes that something is linked to: of several readings of a script what was agreed on criterion by
 * criterion, else their median, the lower of two; dated by the day the script was due. Who did not hand in, is left out, or whose script is
 * held has none of it.
 * @param levels how many levels each outcome has
 * @returns student id → outcome id → results
 */
export function evidenceOf(
  w: Workings,
  links: readonly EvidenceLink[],
  judged: readonly JudgedPoints[],
  levels: ReadonlyMap<string, number>,
): Map<string, Map<string, FoundEvidence[]>> {
  const found = new Map<string, Map<string, FoundEvidence[]>>()
  const applies = appliesGrid(w)
  const rowOf = new Map(w.course.students.map((s, i) => [s.id, i]))
  const placements = group(w.course.placements, (p) => p.assessmentId)
  for (const { assessmentId, ...read } of judged) {
    const column = w.cells.assessment(assessmentId)
    const own = links.filter((l) => l.assessmentId === assessmentId)
    if (column < 0 || own.length === 0) continue
    const byStudent = group(
      Array.from(read.student, (s, i) => ({ s, i })),
      (r) => r.s,
    )
    const placementOf = placementsBySection(placements.get(assessmentId) ?? [])
    const agreedAt = new Map(Array.from(read.agreed.student, (s, i) => [s, i]))
    for (const [s, readings] of byStudent) {
      const studentId = read.students[s]!
      const row = rowOf.get(studentId)
      if (row === undefined) continue
      const cell = row * w.cells.width + column
      const status = w.scripts.status[cell]!
      if (applies[cell] === 0 || w.scripts.there[cell] === NO_SCRIPT || !TELLS[status]) continue
      const day = placementOf(w.stays[studentId] ?? [], w.course.students[row]!.sectionId)?.due ?? null
      for (const link of own) {
        const k = link.criterionId === null ? -1 : read.criteria.findIndex((c) => c.id === link.criterionId)
        if (link.criterionId !== null && k < 0) continue
        const agreed = link.criterionId === null ? undefined : agreedAt.get(s)
        const places =
          agreed !== undefined
            ? [placeOf(link.from, read.agreed.points[k]![agreed])]
            : readings.map(({ i }) => placeOf(link.from, k < 0 ? read.mark[i] : read.points[k]![i]))
        const place = lowerMedian(places.filter((p) => p !== null))
        if (place === null) continue
        let ofStudent = found.get(studentId)
        if (!ofStudent) found.set(studentId, (ofStudent = new Map()))
        const list = ofStudent.get(link.outcomeId) ?? []
        list.push({
          level: levelInProportion(place, link.from.length, levels.get(link.outcomeId) ?? 1),
          day,
          assessmentId,
          criterionId: link.criterionId,
          scriptId: w.cells.scriptId(cell),
        })
        ofStudent.set(link.outcomeId, list)
      }
    }
  }
  return found
}
