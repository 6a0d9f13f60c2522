import { createContext, use, useEffect, useLayoutEffect, useMemo, useRef, type ReactNode } from 'react'
import { page } from '../api/client'
import { SINGLE_KEYS } from './single-keys'

export interface Key {
  /** As `KeyboardEvent.key`, with `Ctrl+` for Ctrl or Cmd, `Alt+`, `Shift+` in front. */
  key: string
  does: string
  /** Without one it is listed only: a part of the screen takes the key itself. */
  run?: () => void
  /** Also while typing in a field. */
  inFields?: boolean
}

const Keys = createContext<{ current: Map<object, Key[]> } | null>(null)

/**
 * What this person presses for a key that a page announces. What they once chose and cannot be one, since it is the browser’s or another
 * key’s on some screen, counts as not chosen.
 */
export function pressedFor(key: string): string {
  const own = page.settings.keys[key]
  return own !== undefined && isSingle(own) && ownerOf(own, key) === null ? own : key
}

/** The key of some screen that a letter or sign stands for already; null where it is free for another. */
export const ownerOf = (pressed: string, butFor: string): string | null =>
  SINGLE_KEYS.find((k) => k !== butFor && (page.settings.keys[k] ?? k) === pressed) ?? null

/** A key press as `Key.key` has it. */
export const combination = (e: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'shiftKey'>): string =>
  `${e.ctrlKey || e.metaKey ? 'Ctrl+' : ''}${e.altKey ? 'Alt+' : ''}${e.shiftKey && (e.key.length > 1 || e.ctrlKey || e.metaKey) ? 'Shift+' : ''}${e.key.length === 1 && (e.ctrlKey || e.metaKey) ? e.key.toLowerCase() : e.key}`

/** What takes letters as text. */
export const TEXT_FIELDS = 'input:not([type=checkbox]):not([type=radio]), textarea'
const inField = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.isContentEditable || target.matches(`${TEXT_FIELDS}, select`))

const isClean = (field: HTMLElement) => field.matches('select') || field.dataset.clean === 'true'
const UNDO = new Set(['Ctrl+z', 'Ctrl+y', 'Ctrl+Shift+z'])

/** A letter, digit or sign alone: it can be switched off, and never acts while a control has the focus that could mean something else by it. */
export const isSingle = (pressed: string): boolean => pressed.length === 1 && pressed !== ' '
const inControl = (target: EventTarget | null) =>
  target instanceof HTMLElement && target.matches('input:not([type=radio]), select, [role=combobox]')
/** Enter and the space bar on a link or button are its own. */
const activates = (e: KeyboardEvent) =>
  (e.key === 'Enter' || e.key === ' ') &&
  !e.ctrlKey &&
  !e.metaKey &&
  !e.altKey &&
  e.target instanceof HTMLElement &&
  e.target.matches('a[href], button, summary, [role=button], [role=menuitem]')

const SINGLES = 'level-table-single-keys'
/** Whether single letters and signs act as keys in this browser (WCAG 2.1.4). */
export const singleKeys = {
  on: (): boolean => localStorage.getItem(SINGLES) !== 'off',
  set: (on: boolean): void => (on ? localStorage.removeItem(SINGLES) : localStorage.setItem(SINGLES, 'off')),
}

/** Listens once for the keys that the screens announce. */
export function KeysProvider({ children }: { children: ReactNode }) {
  const registry = useRef(new Map<object, Key[]>())
  useEffect(() => {
    const listen = (e: KeyboardEvent) => {
      if (e.defaultPrevented || document.querySelector('.modal.show')) return
      if (activates(e)) return
      const pressed = combination(e)
      // The list of keys stays within reach, since they are switched on again there.
      if (isSingle(pressed) && (inControl(e.target) || (!singleKeys.on() && pressed !== '?'))) return
      // In a field that holds nothing unsaved, or no text, undo and redo mean what was done before, not the field.
      const typing = inField(e.target) && !(UNDO.has(pressed) && isClean(e.target as HTMLElement))
      for (const keys of [...registry.current.values()].reverse())
        for (const k of keys)
          if (k.run && pressedFor(k.key) === pressed && (!typing || k.inFields)) {
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
