import { useQueries, useQuery } from '@tanstack/react-query'
import { useMemo } from 'react'
import type { Boundary } from '#core/grades'
import { routes, type IssueHead } from '#contract'
import { call } from '../api/client'
import { useDecidedCourse } from '../course/course'
import { useEarlierCourses } from './useEarlierCourses'

/** Lines of results that were confirmed before, with how many had each grade. */
export interface EarlierLines {
  id: string
  name: string
  boundaries: Boundary[]
  counts: IssueHead['counts']
}

const issuesOf = (courseId: string) => ({
  queryKey: ['issues', courseId],
  queryFn: () => call(routes.issues, { params: { courseId } }),
})

/** The lines of this course's earlier issues, and of the issue in force of earlier years, the latest first. */
export function useEarlierLines(): EarlierLines[] {
  const { id } = useDecidedCourse()
  const courses = useEarlierCourses()
  const own = useQuery(issuesOf(id))
  const others = useQueries({ queries: courses.map((c) => issuesOf(c.id)) })
  const heads = others.map((o) => o.data)
  const known = JSON.stringify([own.data?.map((i) => i.number), heads.map((h) => h?.map((i) => i.number))])
  return useMemo(() => {
    const lines = (name: string, courseId: string, i: IssueHead): EarlierLines => ({
      id: `lines ${courseId} ${i.number}`,
      name,
      boundaries: i.boundaries,
      counts: i.counts,
    })
    return [
      ...(own.data ?? []).filter((i) => i.counted).map((i) => lines(`lines of issue ${i.number}`, id, i)),
      ...courses.flatMap((c, at) => {
        const issue = heads[at]?.find((i) => i.inForce)
        return issue ? [lines(`lines of ${c.term}`, c.id, issue)] : []
      }),
    ]
    // What the lists hold never changes but by another issue.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [known, id, courses])
}
