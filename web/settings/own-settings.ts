import { useQuery, useQueryClient, type QueryClient } from '@tanstack/react-query'
import { useCallback } from 'react'
import type { Me, OwnSettings } from '#contract'
import { doorRoutes } from '#contract/door'
import { call, page } from '../api/client'
import { meQuery } from '../session/ahead'

function show(queries: QueryClient, settings: OwnSettings): void {
  page.settings = settings
  queries.setQueryData<Me | null>(meQuery.queryKey, (me) => me && { ...me, settings })
}

/** How the person writes and which keys they press, with what changes it: at once on screen, and back where it could not be kept. */
export function useOwnSettings() {
  const queries = useQueryClient()
  const settings = useQuery({ ...meQuery, enabled: false }).data?.settings ?? page.settings
  const change = useCallback(
    async (patch: Partial<OwnSettings>): Promise<void> => {
      const before = page.settings
      const next = { ...before, ...patch }
      show(queries, next)
      try {
        await call(doorRoutes.keepOwnSettings, { body: next })
      } catch (e) {
        show(queries, before)
        throw e
      }
    },
    [queries],
  )
  return { settings, change }
}
