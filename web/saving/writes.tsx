import { createContext, use, useCallback, useMemo, useRef, useState, type ReactNode } from 'react'
import { messageOf, page, ProblemError } from '../api/client'
import type { Route } from '#contract'
import { asKept, courseOf, fromKept, KeptRequest, rowOf, send, type Asked } from './ask'
import { keptList } from './kept-list'
import { mayArriveLater } from './outbox'
import { pendingWrites } from './pending-writes'
import { useRefresh } from './refresh'
import { useUndo } from './undo'
import { useOutbox } from './useOutbox'
import { WhichStands } from '../parts/WhichStands'

/** A write told as data, or as what does it; the second waits for the server as well, and is asked about where the page is closed. */
type Sends<T> = Asked<T> | (() => Promise<T>)

interface Writes {
  /**
   * Sends a write after those before it, fetches anew what they changed once all are done, and remembers how to take it back.
   * @returns what the server answered; null where it refused, which is then said on the page
   */
  write: <T>(label: string, sends: Sends<T>, back?: (done: T) => Asked<never> | Promise<unknown>) => Promise<T | null>
  problem: string | null
  clear: () => void
  /** What somebody else changed meanwhile, in the server's words; nothing is sent until one has chosen. */
  clash: string | null
  settle: (whose: 'mine' | 'theirs') => void
}

/** A write that waits for its turn. */
interface Waiting {
  name: string
  sends: Sends<unknown>
  kept: KeptRequest | null
  /** Of an earlier page: it goes on top of what this page did to the row before its turn came. */
  restored: boolean
  /** The version of the row that it goes over, where that is not the one it was asked with. */
  over: number | null
  settle: (done: unknown) => void
}
interface There {
  version: number
  why: string
}

const WritesContext = createContext<Writes | null>(null)
const isAsked = <T,>(sends: Asked<T> | (() => unknown) | Promise<unknown>): sends is Asked<T> => 'route' in sends
let count = 0

/**
 * What screens write one after the other: a person's own, whichever course it is about.
 * @param courseId whose pages these are; null where they are the installation's
 */
export function WritesProvider({ courseId, children }: { courseId: string | null; children: ReactNode }) {
  const { did } = useUndo()
  const refresh = useRefresh()
  const [refused, setRefused] = useState<string | null>(null)
  const [personId] = useState(page.personId ?? '')
  const name = `level-table-writes ${personId}`
  const left = useMemo(() => keptList(name, KeptRequest), [name])
  /** The version that each row got by a write of this page. */
  const versions = useRef(new Map<string, number>())
  /** What was written to since anything was fetched, by course. */
  const written = useRef(new Map<string | null, Set<Route | null>>())
  const done = useCallback(
    async (writes: readonly Waiting[], answer: unknown) => {
      pendingWrites.count -= writes.length
      for (const { sends } of writes) {
        const [of, route] = isAsked(sends) ? [courseOf(sends) ?? courseId, sends.route] : [courseId, null]
        written.current.set(of, (written.current.get(of) ?? new Set()).add(route))
      }
      // Keys are pressed faster than a server answers: only the last one fetches.
      if (pendingWrites.count === 0) {
        const all = [...written.current]
        written.current.clear()
        await Promise.all(all.map(([of, routes]) => refresh({ courseId: of, routes: [...routes] })))
      }
      for (const w of writes) w.settle(answer)
    },
    [refresh, courseId],
  )
  const [outbox, { problem, clash }] = useOutbox<Waiting, unknown, There>(
    name,
    personId,
    {
      nameOf: (w) => w.name,
      after: 0,
      atOnce: 1,
      send([w]) {
        const { sends, over, restored } = w!
        if (!isAsked(sends)) return sends()
        return send(sends, over ?? (restored ? (versions.current.get(rowOf(sends).address) ?? null) : null))
      },
      async answered(answer, [w]) {
        const { version } = (answer ?? {}) as { version?: unknown }
        if (isAsked(w!.sends) && typeof version === 'number') versions.current.set(rowOf(w!.sends).address, version)
        await done([w!], answer)
      },
      conflict(e, { sends }) {
        if (!isAsked(sends) || rowOf(sends).version === null || !(e instanceof ProblemError) || e.problem.status !== 409) return null
        const { version } = (e.problem.current ?? {}) as { version?: unknown }
        return typeof version === 'number' ? { there: { version, why: e.message } } : null
      },
      refused(e, writes) {
        setRefused(messageOf(e))
        void done(writes, null)
      },
      dropped: (writes) => void done(writes, null),
      keep: (waiting) => left.keep(waiting.flatMap((w) => w.kept ?? [])) && waiting.every((w) => w.kept),
    },
    () => ({
      entries: left.read().flatMap((kept): Waiting[] => {
        const sends = fromKept(kept)
        if (!sends) return []
        pendingWrites.count++
        return [{ name: `${count++}`, sends, kept, restored: true, over: null, settle: () => undefined }]
      }),
    }),
  )
  const inTurn = useCallback(
    <T,>(label: string, sends: Sends<T>): Promise<T | null> =>
      new Promise((resolve) => {
        pendingWrites.count++
        const kept = isAsked(sends) ? asKept(label, sends as Asked<unknown>) : null
        const settle = (answer: unknown) => resolve(answer as T | null)
        outbox.put([{ name: `${count++}`, sends: sends as Sends<unknown>, kept, restored: false, over: null, settle }])
      }),
    [outbox],
  )
  const write = useCallback<Writes['write']>(
    (label, sends, back) => {
      setRefused(null)
      let turn = inTurn(label, sends)
      const first = turn
      // Undo may be pressed before the server has answered: it takes its turn after what it undoes.
      if (back) {
        const forget = did({
          label,
          undo: async () => {
            const undone = turn
            await inTurn(label, async () => {
              const answer = await undone
              if (answer === null) return null
              const way = back(answer)
              return isAsked(way) ? send(way) : way
            })
          },
          redo: async () => void (await (turn = inTurn(label, sends))),
        })
        // What the server refused has not happened: there is nothing to undo.
        void first.then((answer) => answer === null && forget())
      }
      return first
    },
    [inTurn, did],
  )
  const clear = useCallback(() => setRefused(null), [])
  const settle = useCallback((whose: 'mine' | 'theirs') => outbox.settle(whose, (w, there) => ({ ...w, over: there.version })), [outbox])
  const said = refused ?? (mayArriveLater(problem) ? messageOf(problem) : null)
  const why = clash?.why ?? null
  const value = useMemo(() => ({ write, problem: said, clear, clash: why, settle }), [write, said, clear, why, settle])
  return <WritesContext value={value}>{children}</WritesContext>
}

export function useWrites(): Writes {
  const writes = use(WritesContext)
  if (!writes) throw new Error('outside WritesProvider')
  return writes
}

/** What was refused, in the server's words. */
export function WriteProblem() {
  const { problem, clear, clash, settle } = useWrites()
  if (clash !== null) return <WhichStands onSettle={settle}>{clash} Nothing more is saved until you have chosen.</WhichStands>
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
