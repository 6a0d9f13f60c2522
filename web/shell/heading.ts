import { useEffect, useRef } from 'react'

/** The heading of the page, where one goes on. */
export const heading = (): HTMLElement | null => document.querySelector('main h1') ?? document.querySelector('h1')

export function goTo(where: HTMLElement, options?: FocusOptions): void {
  where.tabIndex = -1
  where.focus(options)
}

/** Where another thing has come in the place of the one that had the focus, its heading has it: the focus is never nowhere. */
export function useHeadingAfter(shown: string | undefined): void {
  const before = useRef(shown)
  useEffect(() => {
    const isOther = before.current !== undefined && before.current !== shown
    before.current = shown
    const now = heading()
    // What has come is in sight already.
    if (isOther && now && document.activeElement === document.body) goTo(now, { preventScroll: true })
  }, [shown])
}
