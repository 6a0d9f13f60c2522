import { gradeCertainty } from '#core/bounds'
import { partOf, STATUSES, type CourseResult } from '#core/grades'
import { rescalingsInWords } from '#core/rescale'
import {
  gradeStanding,
  NO_SCRIPT,
  appliesGrid,
  resultOfColumns,
  standingMarks,
  totalAdjustments,
  unsureOf,
  workingsOf,
  type Workings,
  type TableLike,
  type Unsure,
} from '#core/trial'
import { sha256 } from '../sha256'
import type { CourseTable, IssueContent, IssueResult, MakingStep } from '#contract'

type Table = Omit<CourseTable, 'head' | 'scripts' | 'readings'> &
  Pick<TableLike, 'scripts' | 'readings'> & { head: Pick<CourseTable['head'], 'code' | 'title' | 'term'> }

/** Digits of a chance that are kept: the rest is not known. */
const CHANCE = 4

/**
 * The results as they would be frozen now.
 * @param decisions in force, the first first
 * @param told what is done next
 * @param workings of the table, and its standing marks, where they are there already
 */
export function issueContent(
  table: Table,
  number: number,
  decisions: NonNullable<IssueContent['decisions']> = [],
  told: (doing: MakingStep) => void = () => undefined,
  workings = workingsOf(table),
  standing = standingMarks(workings),
): IssueContent {
  told('grading everybody')
  const graded = gradeStanding(workings, standing)
  const result = resultOfColumns(graded.columns)
  const rescaled = totalAdjustments(workings).length > 0
  const sections = new Map(table.sections.map((s) => [s.id, s.name]))
  const components = new Map(table.components.map((c) => [c.id, c.title]))
  const titles = new Map([...components, ...table.assessments.map((a) => [a.id, a.title] as const)])
  const placeOf = new Map(workings.course.conditions.map((c, i) => [c as object, i]))
  told('telling how sure each grade is')
  const chances = chancesOf(result, unsureOf(workings, standing, graded))
  told('writing every result down')
  const columnOf = new Map(table.assessments.map((a, at) => [a.id, at]))
  const droppedAt = (ids: readonly string[]) => (ids.length === 0 ? {} : { dropped: ids.map((id) => columnOf.get(id)!) })
  const { code, title, term } = table.head
  return {
    course: { code, title, term },
    number,
    policy: table.policy,
    boundaries: table.boundaries,
    components: table.components.map((c) => ({ title: c.title, weight: c.weight, ...(c.bonus && { bonus: true as const }) })),
    assessments: table.assessments.map((a) => ({
      title: a.title,
      component: components.get(a.componentId)!,
      outOf: a.outOf,
      worth: a.worth,
      counts: a.counts,
      bonus: a.bonus,
    })),
    conditions: workings.course.conditions.map((c) => ({ on: titles.get(partOf(c)) ?? '', least: c.least, atMost: c.atMost })),
    adjustments: rescalingsInWords(table.adjustments, {
      title: (id) => titles.get(id) ?? id,
      section: (id) => sections.get(id) ?? id,
      marker: (id) => table.markers.find((m) => m.id === id)?.name ?? id,
    }),
    decisions,
    results: result.students.map((r, i) => {
      const student = table.students[i]!
      const components = result.componentsAt(i)
      return {
        studentId: r.studentId,
        candidate: student.candidate,
        name: student.name,
        section: sections.get(student.sectionId)!,
        final: r.final,
        ...(rescaled && { adjusted: r.adjusted }),
        rounded: r.rounded,
        grade: r.grade,
        pending: r.pending,
        components: components.map((c, k) => ({ title: table.components[k]!.title, percent: c.percent })),
        marks: marksAt(workings, standing, i),
        ...droppedAt(components.flatMap((c) => c.dropped)),
        heldBy: r.heldBy.map((place) => placeOf.get(result.conditions[place]!)!),
        chance: chances.get(r.studentId) ?? null,
      }
    }),
  }
}

type Standing = ReturnType<typeof standingMarks>

/** What counted of one student, in the order of the assessments. */
function marksAt(w: Workings, standing: Standing, row: number): NonNullable<IssueResult['marks']> {
  const applies = appliesGrid(w)
  return w.cells.assessmentIds.map((_, a) => {
    const cell = row * w.cells.width + a
    if (applies[cell] === 0 || w.scripts.there[cell] === NO_SCRIPT) return null
    const [mark, plain] = [standing.mark[cell]!, standing.plain[cell]!]
    const rescaled = plain === plain && plain !== mark
    const [status, daysLate] = [STATUSES[w.scripts.status[cell]!]!, w.scripts.daysLate[cell]!]
    if (status === 'in' && mark === mark && !rescaled) return mark
    return { mark: mark === mark ? mark : null, ...(rescaled && { plain }), status, daysLate }
  })
}

/** How sure each grade is, as far as readings tell. */
function chancesOf(result: CourseResult, unsure: Unsure): Map<string, number> {
  const se = new Map(unsure.students.flatMap((s) => (s.se > 0 ? [[s.studentId, s.se] as const] : [])))
  return new Map(gradeCertainty(result, se).students.map((s) => [s.studentId, Number(s.chance.toFixed(CHANCE))]))
}

/** The content as canonical JSON (RFC 8785): what is hashed, and what is taken out as a file. */
export const canonicalContent = (content: IssueContent): string => JSON.stringify(inOrder(content))

/**
 * The same with every object's keys in the order that RFC 8785 asks for. JSON.stringify writes numbers and texts as the standard does; it
 * is seven times as fast as a library that writes them itself. Nothing in an issue is keyed by digits, which would come first.
 */
function inOrder(value: unknown): unknown {
  if (typeof value !== 'object' || value === null) return value
  if (Array.isArray(value)) return value.map(inOrder)
  return Object.fromEntries(
    Object.keys(value)
      .sort()
      .map((key) => [key, inOrder(value[key as never])]),
  )
}

/** SHA-256 over canonical JSON, so that the same content always has the same hash, whoever reckons it. */
export const contentHash = (content: IssueContent): string => sha256(canonicalContent(content))

/** Students with each grade; those without one under ''. */
export function gradesIssued({ boundaries, results }: IssueContent): Record<string, number> {
  const counts: Record<string, number> = Object.fromEntries(boundaries.map((b) => [b.grade, 0]))
  for (const { grade } of results) counts[grade ?? ''] = (counts[grade ?? ''] ?? 0) + 1
  return counts
}
