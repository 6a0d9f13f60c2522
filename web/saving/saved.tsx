import { createContext, use, useCallback, useEffect, useId, useMemo, useRef, useState, type ReactNode } from 'react'

type SavedState = { kind: 'saved'; at: Date | null } | { kind: 'saving' } | { kind: 'failed'; why: string }

/** Something typed that cannot be saved as it is. */
export interface Held {
  what: string
  /** Whether it is gone once the screen is left. */
  lost: boolean
}

interface Saving {
  state: SavedState
  saving: <T>(work: Promise<T>) => Promise<T>
  /** Something was typed and is not on its way yet. @returns what says that it is, or that it failed */
  waits: () => () => void
  /** Says under a name that something cannot be saved as it is; null once it is mended or dropped. */
  hold: (name: string, held: Held | null) => void
  held: readonly Held[]
}

const Saved = createContext<Saving | null>(null)

/** What the head says about saving: every write goes through `saving`, and what is refused is held until it is mended or dropped. */
export function SavedProvider({ children }: { children: ReactNode }) {
  const [sent, setState] = useState<SavedState>({ kind: 'saved', at: null })
  const [heldBy, setHeld] = useState<ReadonlyMap<string, Held>>(new Map())
  // Saved is said only once nothing is on its way any more.
  const underWay = useRef(0)
  const saving = useCallback(async <T,>(work: Promise<T>): Promise<T> => {
    underWay.current++
    setState({ kind: 'saving' })
    try {
      const done = await work
      underWay.current--
      if (underWay.current === 0) setState({ kind: 'saved', at: new Date() })
      return done
    } catch (e) {
      underWay.current--
      setState({ kind: 'failed', why: e instanceof Error ? e.message : String(e) })
      throw e
    }
  }, [])
  const waits = useCallback(() => {
    underWay.current++
    setState({ kind: 'saving' })
    let told = false
    return () => {
      if (told) return
      told = true
      underWay.current--
      if (underWay.current === 0) setState((now) => (now.kind === 'saving' ? { kind: 'saved', at: new Date() } : now))
    }
  }, [])
  const hold = useCallback(
    (name: string, held: Held | null) =>
      setHeld((old) => {
        if (held === null && !old.has(name)) return old
        const next = new Map(old)
        if (held) next.set(name, held)
        else next.delete(name)
        return next
      }),
    [],
  )
  const held = useMemo(() => [...heldBy.values()], [heldBy])
  const state = useMemo(
    (): SavedState =>
      sent.kind === 'saved' && held.length > 0 ? { kind: 'failed', why: `Not saved: ${held.map((h) => h.what).join('; ')}.` } : sent,
    [sent, held],
  )
  const value = useMemo(() => ({ state, saving, waits, hold, held }), [state, saving, waits, hold, held])
  return <Saved value={value}>{children}</Saved>
}

export function useSaved() {
  const saved = use(Saved)
  if (!saved) throw new Error('outside SavedProvider')
  return saved
}

/** Holds "saved" back while a field has something in it that cannot be taken; it is gone once the screen is left. */
export function useHeld(what: string | null): void {
  const { hold } = useSaved()
  const name = useId()
  useEffect(() => {
    hold(name, what === null ? null : { what, lost: true })
    return () => hold(name, null)
  }, [hold, name, what])
}
