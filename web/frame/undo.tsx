import { createContext, use, useCallback, useMemo, useRef, useState, type ReactNode } from 'react'

export interface Step {
  label: string
  undo: () => void | Promise<void>
  redo: () => void | Promise<void>
}

interface Undo {
  did: (step: Step) => void
  undo: () => void
  redo: () => void
  /** What would be undone and redone, in words. */
  undoes: string | null
  redoes: string | null
}

const UndoContext = createContext<Undo | null>(null)

/** One history of what this person did in this sitting, whatever it was. */
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
  }, [])
  const undo = useCallback(() => step(done.current, undone.current, 'undo'), [step])
  const redo = useCallback(() => step(undone.current, done.current, 'redo'), [step])
  const undoes = done.current.at(-1)?.label ?? null
  const redoes = undone.current.at(-1)?.label ?? null
  const value = useMemo(() => ({ did, undo, redo, undoes, redoes }), [did, undo, redo, undoes, redoes])
  return <UndoContext value={value}>{children}</UndoContext>
}

export function useUndo() {
  const undo = use(UndoContext)
  if (!undo) throw new Error('outside UndoProvider')
  return undo
}
