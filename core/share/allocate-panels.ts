import { ShareError, type Shared, type ShareMarker, type ShareScript } from './allocate'
import { linkedGroups, type Allotment } from './linked-groups'
import { seeded } from './seeded'

/**
 * Shares scripts out among panels by a seeded draw: every member of a panel reads each of its scripts. Panels get equally
 * many, within 1 where the rest allows it; a script that a panel's member began stays with that panel; a panel with
 * somebody who teaches the script's section does not get it where that is asked and possible.
 * @param panels ids of markers; a marker may sit on more than one
 * @throws ShareError where there is no panel, or one is empty or has an unknown member
 */
export function allocatePanels(input: {
  scripts: readonly ShareScript[]
  markers: readonly Pick<ShareMarker, 'id' | 'ownSections'>[]
  panels: readonly (readonly string[])[]
  seed: number
  avoidOwnSection: boolean
  kept?: readonly Allotment[]
}): Shared {
  const { scripts, panels, avoidOwnSection, kept = [] } = input
  const sections = new Map(input.markers.map((m) => [m.id, new Set(m.ownSections)]))
  if (panels.length === 0) throw new ShareError('Name the members of one panel at least.')
  panels.forEach((p, i) => {
    if (p.length === 0) throw new ShareError(`Panel ${i + 1} has no member.`)
    if (new Set(p).size < p.length) throw new ShareError(`Panel ${i + 1} has somebody twice.`)
    if (p.some((id) => !sections.has(id))) throw new ShareError(`Panel ${i + 1} has a member who does not mark here.`)
  })
  const begun = new Map<string, Set<string>>()
  for (const k of kept) begun.set(k.scriptId, (begun.get(k.scriptId) ?? new Set()).add(k.markerId))
  const own = (panel: number, s: ShareScript) => panels[panel]!.some((id) => sections.get(id)!.has(s.sectionId))
  const candidates = (s: ShareScript): number[] => {
    const readers = begun.get(s.id)
    const all = panels.map((_, i) => i)
    if (readers) {
      const met = all.map((i) => panels[i]!.filter((id) => readers.has(id)).length)
      const most = Math.max(...met)
      if (most > 0) return all.filter((i) => met[i] === most)
    }
    const free = avoidOwnSection ? all.filter((i) => !own(i, s)) : all
    return free.length > 0 ? free : all
  }
  const loads = panels.map(() => 0)
  const panelOf = new Map<string, number>()
  // Those with least choice first, so that the others can level what they did.
  const drawn = seeded(input.seed)
    .shuffled(scripts)
    .map((s) => ({ s, may: candidates(s) }))
    .sort((a, b) => a.may.length - b.may.length)
  for (const { s, may } of drawn) {
    const least = may.reduce((best, i) => (loads[i]! < loads[best]! ? i : best))
    loads[least]!++
    panelOf.set(s.id, least)
  }
  const allotments = scripts.flatMap((s) => {
    const members = new Set([...(begun.get(s.id) ?? []), ...panels[panelOf.get(s.id)!]!])
    return [...members].map((markerId) => ({ scriptId: s.id, markerId }))
  })
  const sectionOf = new Map(scripts.map((s) => [s.id, s.sectionId]))
  return {
    allotments,
    ownSection: avoidOwnSection
      ? allotments.filter((a) => !begun.get(a.scriptId)?.has(a.markerId) && sections.get(a.markerId)?.has(sectionOf.get(a.scriptId)!))
      : [],
    groups: linkedGroups([...new Set(panels.flat())], allotments),
  }
}
