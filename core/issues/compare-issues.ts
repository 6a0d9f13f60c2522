import canonicalize from 'canonicalize'
import { STATUSES } from '../grades/course'
import { marksByTitle, type IssueContent, type IssuedDecision, type IssuedMark, type IssuedResult } from './issue'

/** What of a student is shown side by side. */
export type IssuedFigures = Pick<IssuedResult, 'section' | 'final' | 'rounded' | 'grade'> & { adjusted: number | null }

/** Somebody by whom a mark came to be another, how, and when last. */
export interface MarkWriter {
  who: string
  did: 'typed' | 'read' | 'settled' | 'took back'
  at: string
}

export interface ChangedResult {
  studentId: string
  candidate: string
  name: string
  /** Whether they are in both, only in the later one, or only in the earlier one. */
  is: 'in both' | 'new' | 'gone'
  was: IssuedFigures | null
  now: IssuedFigures | null
  /** Marks that differ, by the title of their assessment. */
  marks: { assessment: string; was: IssuedMark | null; now: IssuedMark | null; by: MarkWriter[] }[]
}

export interface IssueDifference {
  from: number
  to: number
  students: ChangedResult[]
  /** How many differ in grade, and how many in percent alone. */
  grades: number
  /** What else differs. */
  also: ('boundaries' | 'weights' | 'policies' | 'conditions' | 'rescaling' | 'the plan')[]
  /** Decisions that the later one has and the earlier one had not, and the other way round. */
  decided: IssuedDecision[]
  withdrawn: IssuedDecision[]
}

/** Sums may differ in their last places by the order they were made in. */
const SAME = 1e-9
const isOther = (a: number | null, b: number | null) => (a === null || b === null ? a !== b : Math.abs(a - b) > SAME)

const figuresOf = ({ section, final, adjusted, rounded, grade }: IssuedResult): IssuedFigures => ({
  section,
  final,
  adjusted: adjusted === undefined ? final : adjusted,
  rounded,
  grade,
})

type WrittenBy = (studentId: string, assessment: string) => MarkWriter[]
const NOBODY: WrittenBy = () => []

/**
 * Everything in which two issues of a course differ: who is in them, percents, grades and marks, and what brought it about.
 * @param writtenBy who wrote what a mark came of between the two
 */
export function compareIssues(from: IssueContent, to: IssueContent, writtenBy = NOBODY): IssueDifference {
  const before = new Map(from.results.map((r) => [r.studentId, r]))
  const after = new Set(to.results.map((r) => r.studentId))
  const titles = [...new Set([...(to.assessments ?? []), ...(from.assessments ?? [])].map((a) => a.title))]
  const students: ChangedResult[] = []
  for (const r of to.results) {
    const was = before.get(r.studentId)
    const marks =
      was?.marks && r.marks ? differing(titles, marksByTitle(from, was), marksByTitle(to, r), (a) => writtenBy(r.studentId, a)) : []
    const [a, b] = [was && figuresOf(was), figuresOf(r)]
    const changed =
      !a ||
      a.grade !== b.grade ||
      a.section !== b.section ||
      isOther(a.rounded, b.rounded) ||
      isOther(a.final, b.final) ||
      isOther(a.adjusted, b.adjusted)
    if (changed || marks.length > 0) students.push(rowOf(r, a ?? null, b, marks))
  }
  for (const r of from.results) if (!after.has(r.studentId)) students.push(rowOf(r, figuresOf(r), null, []))
  const key = (d: IssuedDecision) => canonicalize([d.at, d.by, d.summary])!
  const [earlier, later] = [from, to].map((c) => new Map((c.decisions ?? []).map((d) => [key(d), d])))
  return {
    from: from.number,
    to: to.number,
    students,
    grades: students.filter((s) => s.was?.grade !== s.now?.grade).length,
    also: alsoDiffers(from, to),
    decided: from.decisions ? [...later!].flatMap(([k, d]) => (earlier!.has(k) ? [] : d)) : [],
    withdrawn: to.decisions ? [...earlier!].flatMap(([k, d]) => (later!.has(k) ? [] : d)) : [],
  }
}

const rowOf = (
  { studentId, candidate, name }: IssuedResult,
  was: IssuedFigures | null,
  now: IssuedFigures | null,
  marks: ChangedResult['marks'],
): ChangedResult => ({
  studentId,
  candidate,
  name,
  is: !was ? 'new' : !now ? 'gone' : 'in both',
  was,
  now,
  marks,
})

function differing(
  titles: readonly string[],
  was: Map<string, IssuedMark | null>,
  now: Map<string, IssuedMark | null>,
  writtenBy: (assessment: string) => MarkWriter[],
): ChangedResult['marks'] {
  return titles.flatMap((assessment) => {
    const [a, b] = [was.get(assessment) ?? null, now.get(assessment) ?? null]
    if (a === null && b === null) return []
    const same =
      a && b && !isOther(a.mark, b.mark) && STATUSES.indexOf(a.status) === STATUSES.indexOf(b.status) && a.daysLate === b.daysLate
    return same ? [] : [{ assessment, was: a, now: b, by: writtenBy(assessment) }]
  })
}

function alsoDiffers(from: IssueContent, to: IssueContent): IssueDifference['also'] {
  const differs = (of: (c: IssueContent) => unknown) => canonicalize(of(from) ?? null) !== canonicalize(of(to) ?? null)
  // What an issue of before did not write down cannot be said to differ.
  const both = (part: 'assessments' | 'conditions' | 'adjustments') => from[part] !== undefined && to[part] !== undefined
  return [
    ...(differs((c) => c.boundaries) ? (['boundaries'] as const) : []),
    ...(differs((c) => c.components.map(({ title, weight }) => [title, weight])) ? (['weights'] as const) : []),
    ...(differs((c) => c.policy) ? (['policies'] as const) : []),
    ...(both('conditions') && differs((c) => c.conditions) ? (['conditions'] as const) : []),
    ...(both('adjustments') && differs((c) => c.adjustments) ? (['rescaling'] as const) : []),
    ...(both('assessments') && differs((c) => c.assessments) ? (['the plan'] as const) : []),
  ]
}
