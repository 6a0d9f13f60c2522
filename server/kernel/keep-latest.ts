/** Keeps something under a key among at most so many: the latest come last, and what was used longest ago goes. */
export function keepLatest<T>(kept: Map<string, T>, key: string, value: T, most: number): void {
  kept.delete(key)
  kept.set(key, value)
  if (kept.size > most) kept.delete(kept.keys().next().value!)
}
