import { useEffect, useRef } from 'react'
import { doorRoutes } from '#contract/door'
import { call, page } from '../api/client'
import { vault } from '../saving/vault'
import { endOutboxes } from '../saving/live-outboxes'
import { forgetKept } from '../saving/useKept'
import { leaveTogether, othersSend, tellLeft } from './tabs'

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
  await othersSend()
  await call(doorRoutes.signOut, { keepalive: true })
  tellLeft()
  wipe()
}

/** Nothing of what was seen stays on screen, in the page’s memory, or readable in the browser. */
function wipe(): void {
  endOutboxes()
  vault.leave()
  forgetKept()
  page.keepKey = null
  document.body.hidden = true
  window.location.assign('/')
}

/** Tabs of one browser are left together. */
export const leaveWithOthers = (): void => leaveTogether(sendWhatWaits, () => page.personId !== null && wipe())
