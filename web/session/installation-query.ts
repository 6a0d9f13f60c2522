import { queryOptions } from '@tanstack/react-query'
import { doorRoutes } from '#contract/door'
import { call } from '../api/client'

/** Whose installation it is, and whether it waits to be set up. */
export const installationQuery = queryOptions({
  queryKey: ['installation'],
  queryFn: () => call(doorRoutes.installation),
  staleTime: Infinity,
})
