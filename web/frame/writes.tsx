import { createContext, use, useCallback, useMemo, useState, type ReactNode } from 'react'
import { messageOf } from '../api/client'
import { useSaved } from './saved'
import { useRefresh } from './refresh'
import { useUndo } from './undo'

interface Writes {
  /**
   * Sends a write, fetches anew what it changed, and remembers how to take it back.
   * @returns what the server answered; null where it refused, which is then said on the page
   */
  write: <T>(label: string, send: () => Promise<T>, back?: (done: T) => Promise<unknown>) => Promise<T | null>
  problem: string | null
  clear: () => void
}

const WritesContext = createContext<Writes | null>(null)

export function WritesProvider({ children }: { children: ReactNode }) {
  const { saving } = useSaved()
  const { did } = useUndo()
  const refresh = useRefresh()
  const [problem, setProblem] = useState<string | null>(null)
  const write = useCallback<Writes['write']>(
    async (label, send, back) => {
      setProblem(null)
      const again = async () => {
        try {
          const done = await saving(send())
          await refresh()
          return done
        } catch (e) {
          setProblem(messageOf(e))
          await refresh()
          return null
        }
      }
      let done = await again()
      if (done !== null && back)
        did({
          label,
          undo: async () => {
            try {
              await saving(back(done!))
            } catch (e) {
              setProblem(messageOf(e))
            }
            await refresh()
          },
          redo: async () => void (done = await again()),
        })
      return done
    },
    [saving, did, refresh],
  )
  const clear = useCallback(() => setProblem(null), [])
  const value = useMemo(() => ({ write, problem, clear }), [write, problem, clear])
  return <WritesContext value={value}>{children}</WritesContext>
}

export function useWrites(): Writes {
  const writes = use(WritesContext)
  if (!writes) throw new Error('outside WritesProvider')
  return writes
}

/** What was refused, in the server's words. */
export function WriteProblem() {
  const { problem, clear } = useWrites()
  if (problem === null) return null
  return (
    <p className="note bad d-flex justify-content-between" role="alert">
      <span>{problem}</span>
      <button className="quiet-button" onClick={clear}>
        Understood
      </button>
    </p>
  )
}
