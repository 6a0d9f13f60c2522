import { createContext, use, useCallback, useMemo, useRef, useState, type ReactNode } from 'react'

export interface Step {
  /** Names a step that is kept beyond this sitting. */
  id?: string
  label: string
  undo: () => void | Promise<void>
  redo: () => void | Promise<void>
}

interface Undo {
  /** Remembers a step. @returns what makes it forgotten, where it did not come about after all */
  did: (step: Step) => () => void
  /** Puts steps of an earlier sitting beneath those of this one; what is here already stays in its place. */
  restore: (done: Step[], undone: Step[]) => void
  undo: () => void
  redo: () => void
  /** What would be undone and redone, in words. */
  undoes: string | null
  redoes: string | null
}

const UndoContext = createContext<Undo | null>(null)

/** One history of what this person did, whatever it was; what a screen keeps of it comes back in a later sitting. */
export function UndoProvider({ children }: { children: ReactNode }) {
  const done = useRef<Step[]>([])
  const undone = useRef<Step[]>([])
  const [, redraw] = useState(0)
  const step = useCallback((from: Step[], to: Step[], which: 'undo' | 'redo') => {
    const s = from.pop()
    if (!s) return
    to.push(s)
    redraw((n) => n + 1)
    void s[which]()
  }, [])
  const did = useCallback((s: Step) => {
    done.current.push(s)
    undone.current = []
    redraw((n) => n + 1)
    return () => {
      done.current = done.current.filter((other) => other !== s)
      undone.current = undone.current.filter((other) => other !== s)
      redraw((n) => n + 1)
    }
  }, [])
  const restore = useCallback((before: Step[], undoneBefore: Step[]) => {
    const nothingYet = done.current.length === 0 && undone.current.length === 0
    // The screen that keeps a step may have been left and come back to: the step acts on the one that is there now.
    const fresh = new Map([...before, ...undoneBefore].map((s) => [s.id, s]))
    const renewed = (list: Step[]) => list.map((s) => (s.id ? (fresh.get(s.id) ?? s) : s))
    const here = new Set([...done.current, ...undone.current].map((s) => s.id))
    done.current = [...before.filter((s) => !here.has(s.id)), ...renewed(done.current)]
    undone.current = nothingYet ? undoneBefore : renewed(undone.current)
    redraw((n) => n + 1)
  }, [])
  const undo = useCallback(() => step(done.current, undone.current, 'undo'), [step])
  const redo = useCallback(() => step(undone.current, done.current, 'redo'), [step])
  const undoes = done.current.at(-1)?.label ?? null
  const redoes = undone.current.at(-1)?.label ?? null
  const value = useMemo(() => ({ did, restore, undo, redo, undoes, redoes }), [did, restore, undo, redo, undoes, redoes])
  return <UndoContext value={value}>{children}</UndoContext>
}

export function useUndo() {
  const undo = use(UndoContext)
  if (!undo) throw new Error('outside UndoProvider')
  return undo
}
