/** An outbox with something waiting outlives its screen: whoever comes back to it finds the one that is still at it. */
interface Live {
  outbox: { end: () => void }
  /** Screens that have it. */
  users: number
}
const live = new Map<string, Live>()

export const liveOutboxes = {
  /** The outbox that is at work under a name. */
  get: (name: string): unknown => live.get(name)?.outbox,
  /** A screen has it from now on. @returns whether it was at work before */
  enter(name: string, outbox: Live['outbox']): boolean {
    const known = live.get(name)
    if (known?.outbox === outbox) {
      known.users++
      return true
    }
    live.set(name, { outbox, users: 1 })
    return false
  },
  /** A screen was left. @param empty comes to whether nothing of it waits any more: it goes once no screen has it either */
  leave(name: string, outbox: Live['outbox'], empty: Promise<boolean>): void {
    const known = live.get(name)
    if (known?.outbox === outbox) known.users--
    void empty.then((nothing) => {
      const now = live.get(name)
      if (nothing && now?.outbox === outbox && now.users === 0) live.delete(name)
    })
  },
}

/** Nothing of it is sent any more from this page. */
export function endOutboxes(): void {
  for (const { outbox } of live.values()) outbox.end()
  live.clear()
}
