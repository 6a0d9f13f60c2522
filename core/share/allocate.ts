import { linkedGroups, type Allotment } from './linked-groups'
import { seeded } from './seeded'

export interface ShareScript {
  id: string
  sectionId: string
}

export interface ShareMarker {
  id: string
  /** Sections that they teach. */
  ownSections: readonly string[]
  /** How much of the reading is theirs, in proportion to the others'; 0 or more. */
  capacity: number
}

export interface ShareInput {
  scripts: readonly ShareScript[]
  markers: readonly ShareMarker[]
  /** Different markers a script gets. */
  readings: number
  seed: number
  avoidOwnSection: boolean
  /** What stays as it is: readings that are begun or done. They count for loads. */
  kept?: readonly Allotment[]
}

export interface Shared {
  /** All of it, in the order of scripts. */
  allotments: Allotment[]
  /** Scripts that somebody had to be given although they teach their section; what is kept is not among them. */
  ownSection: Allotment[]
  /** Markers that share scripts, directly or through others; one group where the whole is linked. */
  groups: string[][]
}

/** A sharing out that cannot be; the message says what to change. */
export class ShareError extends Error {
  override name = 'ShareError'
}

/**
 * Shares the reading of scripts out among markers by a seeded draw: each script gets `readings` different markers, loads
 * are in proportion to capacity within 1, nobody reads their own section where that is asked and possible, pairs of
 * markers meet about equally often, and all are linked through scripts they share. The same seed gives the same result.
 * @throws ShareError where there are fewer markers than readings
 */
export function allocate(input: ShareInput): Shared {
  const { scripts, readings, seed, avoidOwnSection } = input
  const markers = input.markers.filter((m) => m.capacity > 0)
  if (!(Number.isInteger(readings) && readings >= 1)) throw new ShareError('A script needs one reading at least.')
  if (markers.length < readings)
    throw new ShareError(`${readings} readings of a script take ${readings} markers; ${markers.length} have time for it.`)
  const draw = seeded(seed)
  const markerAt = new Map(markers.map((m, i) => [m.id, i]))
  const sections = markers.map((m) => new Set(m.ownSections))
  const own = scripts.map((s) => sections.map((set) => set.has(s.sectionId)))
  const readersOf = scripts.map(() => [] as number[])
  const readBy = markers.map(() => new Set<number>())
  const fixed = scripts.map(() => new Set<number>())
  const scriptAt = new Map(scripts.map((s, i) => [s.id, i]))
  const give = (s: number, m: number) => {
    readersOf[s]!.push(m)
    readBy[m]!.add(s)
  }
  const take = (s: number, m: number) => {
    readersOf[s] = readersOf[s]!.filter((x) => x !== m)
    readBy[m]!.delete(s)
  }
  for (const k of input.kept ?? []) {
    const [s, m] = [scriptAt.get(k.scriptId), markerAt.get(k.markerId)]
    // Whoever has left keeps what they read; it is nobody's load here.
    if (s === undefined || m === undefined || readersOf[s]!.includes(m)) continue
    give(s, m)
    fixed[s]!.add(m)
  }
  const keptByOthers = new Map<number, number>()
  for (const k of input.kept ?? [])
    if (!markerAt.has(k.markerId) && scriptAt.has(k.scriptId))
      keptByOthers.set(scriptAt.get(k.scriptId)!, (keptByOthers.get(scriptAt.get(k.scriptId)!) ?? 0) + 1)
  const wanted = scripts.map((_, s) => Math.max(0, readings - (keptByOthers.get(s) ?? 0)))
  const quota = quotas(
    markers.map((m) => m.capacity),
    wanted.reduce((n, w, s) => n + Math.max(w, readersOf[s]!.length), 0),
    readBy.map((r) => r.size),
    scripts.length,
    draw.shuffled(markers.map((_, i) => i)),
  )
  const left = (m: number) => quota[m]! - readBy[m]!.size
  const may = (s: number, m: number) => !readersOf[s]!.includes(m) && !(avoidOwnSection && own[s]![m])
  const met = markers.map(() => new Int32Array(markers.length))
  const meets = (s: number, m: number) => readersOf[s]!.reduce((n, x) => n + met[m]![x]!, 0)
  const note = (s: number, m: number, by: number) => {
    for (const x of readersOf[s]!) {
      if (x === m) continue
      met[m]![x]! += by
      met[x]![m]! += by
    }
  }
  scripts.forEach((_, s) => readersOf[s]!.forEach((m, i) => readersOf[s]!.slice(0, i).forEach((x) => (met[m]![x]!++, met[x]![m]!++))))

  const order = draw.shuffled(scripts.map((_, i) => i))
  for (let round = 1; round <= readings; round++)
    for (const s of order) {
      if (readersOf[s]!.length >= wanted[s]! || readersOf[s]!.length >= round) continue
      const choice = best(s) ?? augmented(s, may) ?? augmented(s, (x, m) => !readersOf[x]!.includes(m))
      if (choice === null) throw new ShareError('The readings that are kept leave no way to share out the rest: keep fewer of them.')
      note(s, choice, 1)
      give(s, choice)
    }
  evenOut()
  join()

  const allotments = scripts.flatMap((script, s) => readersOf[s]!.map((m) => ({ scriptId: script.id, markerId: markers[m]!.id })))
  const all = [...allotments, ...(input.kept ?? []).filter((k) => !markerAt.has(k.markerId))]
  return {
    allotments,
    ownSection: avoidOwnSection
      ? scripts.flatMap((script, s) =>
          readersOf[s]!.filter((m) => own[s]![m] && !fixed[s]!.has(m)).map((m) => ({ scriptId: script.id, markerId: markers[m]!.id })),
        )
      : [],
    groups: linkedGroups(
      markers.map((m) => m.id),
      all,
    ),
  }

  /** Of those who may and have most left to take, whom the script's other readers have met least. */
  function best(s: number): number | null {
    let found: number | null = null
    let least = Infinity
    const from = draw.below(markers.length)
    for (let i = 0; i < markers.length; i++) {
      const m = (from + i) % markers.length
      if (left(m) <= 0 || !may(s, m)) continue
      const score = meets(s, m) - (left(m) / quota[m]!) * 4
      if (score < least) [found, least] = [m, score]
    }
    return found
  }

  /** A reader for a script by moving others along: breadth first from who may read it to somebody with room. */
  function augmented(s: number, allowed: (script: number, marker: number) => boolean): number | null {
    const from = new Map<number, { marker: number; script: number } | null>()
    const queue: number[] = []
    for (let m = 0; m < markers.length; m++)
      if (allowed(s, m)) {
        from.set(m, null)
        queue.push(m)
      }
    for (const m of queue) {
      if (left(m) > 0) {
        // Each on the way hands its script on to the one after it.
        let at = m
        for (let step = from.get(at)!; step; step = from.get(at)!) {
          note(step.script, step.marker, -1)
          take(step.script, step.marker)
          note(step.script, at, 1)
          give(step.script, at)
          at = step.marker
        }
        return at
      }
      for (const script of readBy[m]!) {
        if (fixed[script]!.has(m)) continue
        for (let next = 0; next < markers.length; next++)
          if (!from.has(next) && allowed(script, next)) {
            from.set(next, { marker: m, script })
            queue.push(next)
          }
      }
    }
    return null
  }

  /** Exchanges two scripts between two markers. */
  function exchange(s: number, a: number, t: number, b: number): void {
    note(s, a, -1)
    take(s, a)
    note(t, b, -1)
    take(t, b)
    note(s, b, 1)
    give(s, b)
    note(t, a, 1)
    give(t, a)
  }
  function mayExchange(s: number, a: number, t: number, b: number): boolean {
    return s !== t && a !== b && !fixed[s]!.has(a) && !fixed[t]!.has(b) && may(s, b) && may(t, a)
  }

  /** Exchanges drawn pairs of scripts where markers who met often then meet less. */
  function evenOut(): void {
    if (readings < 2 || scripts.length < 2) return
    const tries = Math.min(60_000, scripts.length * 30)
    for (let i = 0; i < tries; i++) {
      const [s, t] = [draw.below(scripts.length), draw.below(scripts.length)]
      if (readersOf[s]!.length === 0 || readersOf[t]!.length === 0) continue
      const a = readersOf[s]![draw.below(readersOf[s]!.length)]!
      const b = readersOf[t]![draw.below(readersOf[t]!.length)]!
      if (!mayExchange(s, a, t, b)) continue
      const without = (script: number, m: number, but: number) => readersOf[script]!.reduce((n, x) => n + (x === but ? 0 : met[m]![x]!), 0)
      const now = without(s, a, a) + without(t, b, b)
      const then = without(s, b, a) + without(t, a, b)
      // Leaving a pair takes one meeting away from it, joining adds one.
      if (then + readersOf[s]!.length - 1 + (readersOf[t]!.length - 1) < now) exchange(s, a, t, b)
    }
  }

  /** Links groups that share no script by exchanges between them, which leave loads as they are. */
  function join(): void {
    if (readings < 2) return
    for (let i = 0; i < markers.length; i++) {
      const groups = linkedGroups(
        markers.map((m) => m.id),
        scripts.flatMap((script, s) => readersOf[s]!.map((m) => ({ scriptId: script.id, markerId: markers[m]!.id }))),
      )
      if (groups.length < 2) return
      if (!joined(groups)) return
    }
  }
  function joined([largest, ...others]: string[][]): boolean {
    const inside = new Set(largest!.map((id) => markerAt.get(id)!))
    for (const group of others)
      for (const id of group) {
        const b = markerAt.get(id)!
        for (const t of readBy[b]!)
          for (const a of inside)
            for (const s of readBy[a]!)
              if (mayExchange(s, a, t, b)) {
                exchange(s, a, t, b)
                return true
              }
      }
    return false
  }
}

/**
 * Whole loads in proportion to capacity, within 1 and summing to the total (largest remainders, ties in the order given);
 * at least what somebody keeps and at most one reading of every script.
 */
function quotas(capacity: number[], total: number, atLeast: number[], atMost: number, order: number[]): number[] {
  const quota = capacity.map(() => 0)
  let open = capacity.map((_, i) => i)
  let rest = total
  // Whoever would get too much or too little is set, and the others share what is left.
  for (;;) {
    const sum = open.reduce((n, i) => n + capacity[i]!, 0)
    if (open.length === 0 || sum === 0) break
    const share = (i: number) => (rest * capacity[i]!) / sum
    const over = open.filter((i) => share(i) > atMost)
    const under = open.filter((i) => share(i) < atLeast[i]!)
    const set = over.length > 0 ? over : under
    if (set.length === 0) {
      for (const i of open) quota[i] = Math.floor(share(i) + 1e-9)
      let missing = rest - open.reduce((n, i) => n + quota[i]!, 0)
      const byRemainder = order.filter((i) => open.includes(i)).sort((a, b) => share(b) - quota[b]! - (share(a) - quota[a]!))
      for (const i of byRemainder) if (missing-- > 0) quota[i]!++
      break
    }
    for (const i of set) {
      quota[i] = over.length > 0 ? atMost : atLeast[i]!
      rest -= quota[i]!
    }
    open = open.filter((i) => !set.includes(i))
  }
  return quota
}
