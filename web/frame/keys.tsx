import { createContext, use, useEffect, useLayoutEffect, useMemo, useRef, type ReactNode } from 'react'

export interface Key {
  /** As `KeyboardEvent.key`, with `Ctrl+` for Ctrl or Cmd, `Alt+`, `Shift+` in front. */
  key: string
  does: string
  run: () => void
  /** Also while typing in a field. */
  inFields?: boolean
}

const Keys = createContext<{ current: Map<object, Key[]> } | null>(null)

const combination = (e: KeyboardEvent) =>
  `${e.ctrlKey || e.metaKey ? 'Ctrl+' : ''}${e.altKey ? 'Alt+' : ''}${e.shiftKey && e.key.length > 1 ? 'Shift+' : ''}${e.key.length === 1 && (e.ctrlKey || e.metaKey) ? e.key.toLowerCase() : e.key}`

const inField = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || target.matches('input:not([type=checkbox]):not([type=radio]), textarea, select'))

const UNDO = new Set(['Ctrl+z', 'Ctrl+y'])

/** Listens once for the keys that the screens announce. */
export function KeysProvider({ children }: { children: ReactNode }) {
  const registry = useRef(new Map<object, Key[]>())
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      if (e.defaultPrevented || document.querySelector('.modal.show')) return
      const pressed = combination(e)
      // In a field that holds nothing unsaved, undo and redo mean what was done before, not the field.
      const typing = inField(e.target) && !(UNDO.has(pressed) && (e.target as HTMLElement).dataset.clean === 'true')
      for (const keys of [...registry.current.values()].reverse())
        for (const k of keys)
          if (k.key === pressed && (!typing || k.inFields)) {
            e.preventDefault()
            k.run()
            return
          }
    }
    document.addEventListener('keydown', listen)
    return () => document.removeEventListener('keydown', listen)
  }, [])
  return <Keys value={registry}>{children}</Keys>
}

/** Announces keys while the component is on screen; the latest handlers are always the ones called. */
export function useKeys(keys: Key[]): void {
  const registry = use(Keys)
  if (!registry) throw new Error('outside KeysProvider')
  const owner = useMemo(() => ({}), [])
  useLayoutEffect(() => {
    registry.current.set(owner, keys)
  })
  useEffect(() => {
    const { current } = registry
    return () => void current.delete(owner)
  }, [registry, owner])
}

export function useAllKeys(): () => Key[] {
  const registry = use(Keys)!
  return () => [...registry.current.values()].flat()
}
