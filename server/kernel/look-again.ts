const EVERY_MS = 15 * 60_000

/** Looks at once, and then every quarter of an hour, for what has become due. @returns what ends that */
export function lookAgain(look: () => Promise<unknown>): () => void {
  void look()
  const timer = setInterval(() => void look(), EVERY_MS)
  timer.unref()
  return () => clearInterval(timer)
}
