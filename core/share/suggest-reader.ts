import type { Allotment } from './linked-groups'

export interface ScriptToRead {
  scriptId: string
  /** Who reads it already, or is to. */
  readBy: readonly string[]
  /** Who teaches its section; null for nobody. */
  teacherId: string | null
}

export interface PossibleReader {
  id: string
  /** Scripts that wait for them. */
  waiting: number
  /** Which of the groups of markers who share scripts they belong to; −1 for none. */
  group: number
}

/**
 * Who could read each of some scripts once more: first whoever can be compared with those who read it, then whoever does not teach
 * its section, then whoever has the least to do, counting what is given out on the way. A script listed twice gets two readers.
 * @returns a reader each, in the order of the scripts; those that nobody is left for are left out
 */
export function suggestReaders(scripts: readonly ScriptToRead[], markers: readonly PossibleReader[]): Allotment[] {
  const waiting = new Map(markers.map((m) => [m.id, m.waiting]))
  const groupOf = new Map(markers.map((m) => [m.id, m.group]))
  const given = new Map<string, string[]>()
  return scripts.flatMap(({ scriptId, readBy: before, teacherId }) => {
    const readBy = [...before, ...(given.get(scriptId) ?? [])]
    const groups = new Set(readBy.flatMap((id) => groupOf.get(id) ?? []))
    const apart = (m: PossibleReader) => Number(groups.size > 0 && !groups.has(m.group))
    const own = (m: PossibleReader) => Number(m.id === teacherId)
    const [first] = markers
      .filter((m) => !readBy.includes(m.id))
      .sort((a, b) => apart(a) - apart(b) || own(a) - own(b) || waiting.get(a.id)! - waiting.get(b.id)! || (a.id < b.id ? -1 : 1))
    if (!first) return []
    waiting.set(first.id, waiting.get(first.id)! + 1)
    given.set(scriptId, [...(given.get(scriptId) ?? []), first.id])
    return [{ scriptId, markerId: first.id }]
  })
}
