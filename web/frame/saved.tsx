import { createContext, use, useCallback, useMemo, useState, type ReactNode } from 'react'

type SavedState = { kind: 'saved'; at: Date | null } | { kind: 'saving' } | { kind: 'failed'; why: string }

const Saved = createContext<{ state: SavedState; saving: <T>(work: Promise<T>) => Promise<T> } | null>(null)

/** What the head says about saving: every write goes through `saving`. */
export function SavedProvider({ children }: { children: ReactNode }) {
  const [state, setState] = useState<SavedState>({ kind: 'saved', at: null })
  const saving = useCallback(async <T,>(work: Promise<T>): Promise<T> => {
    setState({ kind: 'saving' })
    try {
      const done = await work
      setState({ kind: 'saved', at: new Date() })
      return done
    } catch (e) {
      setState({ kind: 'failed', why: e instanceof Error ? e.message : String(e) })
      throw e
    }
  }, [])
  const value = useMemo(() => ({ state, saving }), [state, saving])
  return <Saved value={value}>{children}</Saved>
}

export function useSaved() {
  const saved = use(Saved)
  if (!saved) throw new Error('outside SavedProvider')
  return saved
}
