import { allocate, type Shared, type ShareInput } from './allocate'
import type { Allotment } from './linked-groups'

/**
 * One more reader for each of some scripts, however many they have already: scripts with the same number of readers are
 * drawn together.
 * @param kept who reads what now
 * @returns the further readings alone, and those of them that somebody had to be given of their own section
 * @throws ShareError where a script is read by everybody who has time
 */
export function allocateFurther({
  scripts,
  kept,
  ...by
}: Omit<ShareInput, 'readings' | 'kept'> & { kept: readonly Allotment[] }): Pick<Shared, 'allotments' | 'ownSection'> {
  const readers = new Map<string, number>()
  for (const a of kept) readers.set(a.scriptId, (readers.get(a.scriptId) ?? 0) + 1)
  const of = (s: { id: string }) => readers.get(s.id) ?? 0
  const known = new Set(kept.map(keyOf))
  const [allotments, ownSection]: [Allotment[], Allotment[]] = [[], []]
  for (const n of [...new Set(scripts.map(of))].sort((a, b) => a - b)) {
    const drawn = allocate({ ...by, scripts: scripts.filter((s) => of(s) === n), readings: n + 1, kept: [...kept, ...allotments] })
    for (const a of drawn.allotments) {
      if (known.has(keyOf(a))) continue
      known.add(keyOf(a))
      allotments.push(a)
    }
    ownSection.push(...drawn.ownSection)
  }
  return { allotments, ownSection }
}

const keyOf = (a: Allotment) => `${a.scriptId} ${a.markerId}`
