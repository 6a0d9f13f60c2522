import { useMemo } from 'react'
import type { CourseHead } from '#contract'
import { useDecidedCourse } from '../course/course'
import { useCourses } from '../session/ahead'

/** Courses of the same code that one oversees and whose marks are those of an issue in force, the latest first. */
export function useEarlierCourses(): CourseHead[] {
  const { id, table } = useDecidedCourse()
  const { data } = useCourses()
  const { code, firstDay } = table.head
  return useMemo(
    () =>
      (data ?? [])
        .filter((c) => c.id !== id && c.code === code && c.role !== 'student' && c.role !== 'marker')
        // Reopened, its marks may be others than those that count.
        .filter((c) => c.confirmedIssue !== null && c.confirmedIssue === c.issueInForce)
        .filter((c) => c.lastDay < firstDay)
        .sort((a, b) => (a.firstDay < b.firstDay ? 1 : -1)),
    [data, id, code, firstDay],
  )
}
