import { useCallback, useEffect, useSyncExternalStore } from 'react'
import { page } from '../api/client'

/** What is typed and not sent yet, by the place it is typed at: whoever comes back to the place finds it there. In memory alone. */
class Drafts {
  readonly #texts = new Map<string, string>()
  readonly #listeners = new Set<() => void>()

  subscribe = (listener: () => void): (() => void) => {
    this.#listeners.add(listener)
    return () => this.#listeners.delete(listener)
  }
  get = (key: string): string | undefined => this.#texts.get(key)
  set(key: string, text: string | null): void {
    if (text === null || text === '') this.#texts.delete(key)
    else this.#texts.set(key, text)
    for (const listener of this.#listeners) listener()
  }
  get any(): boolean {
    return [...this.#texts.values()].some((text) => text.trim() !== '')
  }
}

export const drafts = new Drafts()

/**
 * Words that are typed at a place and sent from it later.
 * @param key names the place, and what it is about
 * @returns the words, what types them, and what drops them once they are sent
 */
export function useDraft(key: string): [text: string, type: (text: string) => void, drop: () => void] {
  const own = `${page.personId ?? ''} ${key}`
  const text = useSyncExternalStore(drafts.subscribe, () => drafts.get(own)) ?? ''
  const type = useCallback((next: string) => drafts.set(own, next), [own])
  const drop = useCallback(() => drafts.set(own, null), [own])
  return [text, type, drop]
}

/** Asks before the page is closed over what is typed and not sent. */
export function useDraftsGuard(): void {
  useEffect(() => {
    const onLeave = (e: BeforeUnloadEvent) => {
      if (drafts.any) e.preventDefault()
    }
    window.addEventListener('beforeunload', onLeave)
    return () => window.removeEventListener('beforeunload', onLeave)
  }, [])
}
