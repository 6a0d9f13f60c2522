import { useMemo } from 'react'
import type { CourseHead } from '#contract'
import { useDecidedCourse } from '../course/course'
import { useCourses } from '../session/ahead'

/** Confirmed courses of the same code that one oversees, the latest first. */
export function useEarlierCourses(): CourseHead[] {
  const { id, table } = useDecidedCourse()
  const { data } = useCourses()
  const { code, firstDay } = table.head
  return useMemo(
    () =>
      (data ?? [])
        .filter((c) => c.id !== id && c.code === code && c.confirmedIssue !== null && c.role !== 'student' && c.role !== 'marker')
        .filter((c) => c.lastDay < firstDay)
        .sort((a, b) => (a.firstDay < b.firstDay ? 1 : -1)),
    [data, id, code, firstDay],
  )
}
