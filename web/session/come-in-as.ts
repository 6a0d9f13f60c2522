import type { QueryClient } from '@tanstack/react-query'
import type { Me } from '#contract'
import { takePage } from '../api/client'

/** From now on the page is this person's. */
export function comeInAs(queries: QueryClient, me: Omit<Me, 'look'>): void {
  // Nothing that was fetched for whoever was here before may be shown to them.
  queries.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== 'me' })
  takePage(me)
  queries.setQueryData(['me'], { ...me, look: null })
}
