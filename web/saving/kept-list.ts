import type { z } from 'zod'
import { keepFitting } from './keep-fitting'
import { vault } from './vault'

/**
 * A list of a person's own that has not reached the server yet, sealed in the browser so that neither a reload nor a lost connection
 * takes it; whoever signs in there next neither finds nor sends it.
 * @param name the kind, the ids that it belongs to, and the person's
 */
export function keptList<T>(name: string, entry: z.ZodType<T>) {
  return {
    read(): T[] {
      const kept = vault.get(name)
      if (kept === null) return []
      try {
        return entry.array().parse(JSON.parse(kept))
      } catch {
        return []
      }
    },
    /** @returns whether there was room for all of it */
    keep: (list: readonly T[]): boolean => keepFitting(name, list) === list.length,
  }
}
