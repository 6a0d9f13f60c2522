import { useQuery } from '@tanstack/react-query'
import { routes, type SharesOfCourse } from '#contract'
import { call } from '../../../api/client'
import { useEarlierCourses } from '../../../parts/useEarlierCourses'

/** How many stood where on an outcome in the latest confirmed course of the same code; null where it had none of it, or other levels. */
export function useEarlierShares(outcomeId: string, levels: number): (SharesOfCourse['outcomes'][number] & { term: string }) | null {
  const [earlier] = useEarlierCourses()
  const asked = useQuery({
    queryKey: ['outcome shares', earlier?.id],
    queryFn: () => call(routes.outcomeShares, { params: { courseId: earlier!.id } }),
    enabled: earlier !== undefined,
    // What is confirmed stays as it is.
    staleTime: Infinity,
  })
  const own = asked.data?.outcomes.find((o) => o.outcomeId === outcomeId)
  return own && own.levels === levels ? { ...own, term: asked.data!.term } : null
}
