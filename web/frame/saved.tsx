import { createContext, use, useCallback, useMemo, useRef, useState, type ReactNode } from 'react'

type SavedState = { kind: 'saved'; at: Date | null } | { kind: 'saving' } | { kind: 'failed'; why: string }

interface Saving {
  state: SavedState
  saving: <T>(work: Promise<T>) => Promise<T>
  /** Something was typed and is not on its way yet. @returns what says that it is, or that it failed */
  typed: () => () => void
}

const Saved = createContext<Saving | null>(null)

/** What the head says about saving: every write goes through `saving`. */
export function SavedProvider({ children }: { children: ReactNode }) {
  const [state, setState] = useState<SavedState>({ kind: 'saved', at: null })
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
  const typed = useCallback(() => {
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
  const value = useMemo(() => ({ state, saving, typed }), [state, saving, typed])
  return <Saved value={value}>{children}</Saved>
}

export function useSaved() {
  const saved = use(Saved)
  if (!saved) throw new Error('outside SavedProvider')
  return saved
}
