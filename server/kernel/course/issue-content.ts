import canonicalize from 'canonicalize'
import { createHash } from 'node:crypto'
import { gradeWorkings, totalAdjustments, workingsOf } from '#core/trial'
import type { CourseTable, IssueContent } from '#contract'

/** The results as they would be frozen now. */
export function issueContent(
  table: Omit<CourseTable, 'head'> & { head: Pick<CourseTable['head'], 'code' | 'title' | 'term'> },
  number: number,
): IssueContent {
  const workings = workingsOf(table)
  const result = gradeWorkings(workings)
  const rescaled = totalAdjustments(workings).length > 0
  const sections = new Map(table.sections.map((s) => [s.id, s.name]))
  const { code, title, term } = table.head
  return {
    course: { code, title, term },
    number,
    policy: table.policy,
    boundaries: table.boundaries,
    components: table.components.map((c) => ({ title: c.title, weight: c.weight })),
    results: result.students.map((r, i) => {
      const student = table.students[i]!
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
        components: r.components.map((c, k) => ({ title: table.components[k]!.title, percent: c.percent })),
      }
    }),
  }
}

/** SHA-256 over canonical JSON (RFC 8785), so that the same content always has the same hash, whoever reckons it. */
export const contentHash = (content: IssueContent): string => createHash('sha256').update(canonicalize(content)!).digest('hex')
