import { useState } from 'react'

interface Chosen {
  /** What is chosen, by id; null where nothing is. */
  id: string | null
  /** Its place in the list; −1 where nothing is chosen. */
  at: number
  /** Whether what was chosen has left the list: nothing is chosen then, until somebody chooses. */
  gone: boolean
  choose: (id: string | null) => void
}

/**
 * What is chosen in a list that others change meanwhile. It begins with the first and stays what it is: where it leaves the list nothing
 * takes its place by itself, so that no key acts on another one.
 * @param first to begin with, where it is in the list
 * @param scope of the list as its person has narrowed it; another one begins with its first again
 */
export function useChosen(ids: readonly string[], { first = null, scope = '' }: { first?: string | null; scope?: string } = {}): Chosen {
  const beginning = (wanted: string | null) => (wanted !== null && ids.includes(wanted) ? wanted : (ids[0] ?? null))
  const [state, setState] = useState(() => ({ scope, id: beginning(first) }))
  const fresh = state.scope !== scope || (state.id === null && ids.length > 0)
  const id = fresh ? beginning(null) : state.id
  if (fresh) setState({ scope, id })
  const at = id === null ? -1 : ids.indexOf(id)
  return { id: at < 0 ? null : id, at, gone: id !== null && at < 0, choose: (to) => setState({ scope, id: to }) }
}
