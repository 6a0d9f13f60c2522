import { queryOptions, useQuery, type QueryClient } from '@tanstack/react-query'
import type { Me } from '#contract'
import { doorRoutes } from '#contract/door'
import { call, takePage } from '../api/client'

async function whoIsSignedIn(): Promise<Me | null> {
  const me = await call(doorRoutes.me)
  if (!me) return null
  takePage(me)
  return me
}

export const meQuery = queryOptions({ queryKey: ['me'], queryFn: whoIsSignedIn, staleTime: Infinity })
export const coursesQuery = queryOptions({ queryKey: ['courses'], queryFn: () => call(doorRoutes.courses) })

/** Who is signed in; for what stands behind the door, where that is known. */
export function useSignedIn(): Me {
  const { data } = useQuery(meQuery)
  if (!data) throw new Error('nobody is signed in')
  return data
}

/** Asks at once for what the page that opens will need, rather than one answer after the other. */
export function fetchAhead(queries: QueryClient, path: string): void {
  const known = queries.fetchQuery(meQuery)
  void queries.prefetchQuery(coursesQuery)
  const [, courses, courseId, stop, part] = path.split('/')
  // Only those who oversee a course stand at its first stop, and only they may ask for these.
  if (courses !== 'courses' || !courseId || stop !== 'set-out') return void known.catch(() => undefined)
  // Neither the door nor the other stops need to know of it.
  const plan = import('../course/plan')
  void known.then(
    (me) => {
      if (!me) return
      void plan.then(
        ({ planQuery, rollQuery }) => {
          void queries.prefetchQuery(planQuery(courseId))
          if (part === 'roll') void queries.prefetchQuery(rollQuery(courseId))
        },
        () => undefined,
      )
    },
    () => undefined,
  )
}

export const useMe = () => useQuery(meQuery)
export const useCourses = () => useQuery(coursesQuery)
