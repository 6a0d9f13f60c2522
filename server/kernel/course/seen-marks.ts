import { marksByTitle, type IssuedMark } from '#core/issues'
import type { IssueHead } from '#contract'
import type { Db } from '../db/open'
import type { IssuedResults } from './issued-results'
import { issuesOf } from './issues'

/** A mark as its student sees it once it is released. */
export type SeenMark = Pick<IssuedMark, 'mark' | 'status' | 'daysLate'>

interface Work {
  id: string
  title: string
}

/**
 * Marks as students and their classes see them. Of a script that is held, no mark is seen. While a course is reopened, and until the next
 * issue counts, the marks of the one that still counts are seen, and not those that nobody has confirmed yet.
 */
export function seenMarks(db: Db, issued: IssuedResults) {
  const issues = issuesOf(db)
  return (courseId: string) => {
    const issue: IssueHead | null = issues.inForce(courseId)
    return {
      /** The issue that counts; null where there is none. */
      issue,
      /** By assessment. @param live the standing marks of the student */
      async of(studentId: string, live: ReadonlyMap<string, SeenMark>, work: readonly Work[]): Promise<Map<string, SeenMark>> {
        const then = issue?.reopened ? await issued(courseId, issue, studentId) : null
        const confirmed = then && marksByTitle(then, then.result)
        return new Map(
          work.flatMap(({ id, title }) => {
            const seen = confirmed?.has(title) ? confirmed.get(title) : live.get(id)
            if (!seen) return []
            const { mark, status, daysLate } = seen
            return [[id, { mark: status === 'held' ? null : mark, status, daysLate }] as const]
          }),
        )
      },
    }
  }
}
