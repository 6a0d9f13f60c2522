import { group } from 'd3-array'

/** Who reads which script. */
export interface Allotment {
  scriptId: string
  markerId: string
}

/**
 * Markers who share scripts, directly or through others, in groups; those of different groups cannot be compared fairly.
 * @returns the groups, the largest first, each in the order of `markers`
 */
export function linkedGroups(markers: readonly string[], allotments: readonly Allotment[]): string[][] {
  const parent = new Map(markers.map((m) => [m, m]))
  const root = (m: string): string => {
    let at = m
    while (parent.get(at) !== at) {
      parent.set(at, parent.get(parent.get(at)!)!)
      at = parent.get(at)!
    }
    return at
  }
  const first = new Map<string, string>()
  for (const { scriptId, markerId } of allotments) {
    if (!parent.has(markerId)) continue
    const other = first.get(scriptId)
    if (other === undefined) first.set(scriptId, markerId)
    else parent.set(root(markerId), root(other))
  }
  return [...group(markers, root).values()].sort((a, b) => b.length - a.length)
}

/**
 * The fewest further readings that would link all markers: one for each group but the largest, by a marker of it on a
 * script that one of the largest reads.
 */
export function joiningReadings(groups: readonly string[][], allotments: readonly Allotment[]): Allotment[] {
  const [largest, ...others] = groups
  if (!largest) return []
  const inLargest = new Set(largest)
  const theirs = allotments.filter((a) => inLargest.has(a.markerId))
  return others.flatMap((group, i) => {
    const script = theirs[i % Math.max(1, theirs.length)]
    return script ? [{ scriptId: script.scriptId, markerId: group[0]! }] : []
  })
}
