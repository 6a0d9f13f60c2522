import { createContext, use, useCallback, useMemo, useRef, useState, type ReactNode } from 'react'
import { messageOf } from '../api/client'
import { pendingWrites } from './pending-writes'
import { useRefresh } from './refresh'
import { useSaved } from './saved'
import { useUndo } from './undo'

interface Writes {
  /**
   * Sends a write after those before it, fetches anew what they changed once all are done, and remembers how to take it back.
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
  // Keys are pressed faster than a server answers: each write waits for the one before it, and only the last one fetches.
  const queue = useRef<Promise<unknown>>(Promise.resolve())
  const inTurn = useCallback(
    <T,>(send: () => Promise<T>): Promise<T | null> => {
      pendingWrites.count++
      const turn = saving(queue.current.then(send))
        .catch((e: unknown) => {
          setProblem(messageOf(e))
          return null
        })
        .then(async (done) => {
          pendingWrites.count--
          if (pendingWrites.count === 0) await refresh()
          return done
        })
      queue.current = turn
      return turn
    },
    [saving, refresh],
  )
  const write = useCallback<Writes['write']>(
    (label, send, back) => {
      setProblem(null)
      let turn = inTurn(send)
      const first = turn
      // Undo may be pressed before the server has answered: it takes its turn after what it undoes.
      if (back) {
        const forget = did({
          label,
          undo: async () => {
            const undone = turn
            await inTurn(async () => {
              const done = await undone
              if (done !== null) await back(done)
            })
          },
          redo: async () => void (await (turn = inTurn(send))),
        })
        // What the server refused has not happened: there is nothing to undo.
        void first.then((done) => done === null && forget())
      }
      return first
    },
    [inTurn, did],
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
