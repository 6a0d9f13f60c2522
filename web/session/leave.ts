import { useEffect, useRef } from 'react'
import { doorRoutes } from '#contract/door'
import { call, page } from '../api/client'
import { vault } from '../saving/vault'
import { endOutboxes } from '../saving/live-outboxes'
import { forgetKept } from '../saving/useKept'

/** Told before a person signs out: whoever has something unsent adds the promise that it went off. */
class Leaving extends Event {
  readonly sending: Promise<unknown>[] = []
  constructor() {
    super('leaving')
  }
}
const leaving = new EventTarget()

/** What a screen still has to send goes off before its person signs out. */
export function useSendBeforeSignOut(send: () => Promise<unknown>): void {
  const latest = useRef(send)
  latest.current = send
  useEffect(() => {
    const on = (told: Event) => {
      if (told instanceof Leaving) told.sending.push(latest.current())
    }
    leaving.addEventListener('leaving', on)
    return () => leaving.removeEventListener('leaving', on)
  }, [])
}

/** Sends what screens still have to send, and waits for it; what fails is left where it is kept. */
export async function sendWhatWaits(): Promise<void> {
  const told = new Leaving()
  leaving.dispatchEvent(told)
  await Promise.allSettled(told.sending)
}

/**
 * Signs out: what waits is sent first, then nothing of the person is left in the page or readable in the browser. What could not be
 * sent stays sealed under a key that signing in gives back.
 */
export async function signOut(): Promise<void> {
  await sendWhatWaits()
  await call(doorRoutes.signOut, { keepalive: true })
  for (const name of vault.names()) if (name.startsWith('level-table-steps ')) vault.drop(name)
  forgetKept()
  endOutboxes()
  page.keepKey = null
  // Nothing of what one saw may stay in the page's memory.
  window.location.assign('/')
}
