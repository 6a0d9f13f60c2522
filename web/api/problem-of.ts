import { messageOf, OfflineError } from './client'

interface Asked {
  data: unknown
  error: Error | null
}

/** Why there is nothing to show, or null. What was fetched before stays on screen while the server is away. */
export function problemOf(...asked: Asked[]): string | null {
  const bad = asked.find((q) => q.error && (q.data === undefined || !(q.error instanceof OfflineError)))
  return bad ? messageOf(bad.error) : null
}
