import { vault } from './vault'

/**
 * Keeps a list in the browser as far as there is room for it, giving up its beginning first.
 * @returns how many of it are kept; none where the browser keeps nothing at all
 */
export function keepFitting<T>(key: string, list: readonly T[], asText: (list: readonly T[]) => string = JSON.stringify): number {
  for (let n = list.length; n > 0; n = Math.floor(n / 2)) {
    try {
      vault.set(key, asText(list.slice(-n)))
      return n
    } catch {
      // No room for so many.
    }
  }
  vault.drop(key)
  return 0
}
