import { useQuery } from '@tanstack/react-query'
import { routes } from '#contract'
import { call } from '../../../api/client'

/** How many students somebody is asked to judge at a line, and has not yet. */
export function useAskedToJudge(courseId: string): number {
  const { data } = useQuery({ queryKey: ['to judge', courseId], queryFn: () => call(routes.toJudge, { params: { courseId } }) })
  return data?.reduce((n, l) => n + l.students.filter((s) => s.able === null).length, 0) ?? 0
}
