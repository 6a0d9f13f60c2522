/** What tabs of one browser tell each other when somebody signs out in one of them. */
type Told = 'leaving' | 'waits' | 'sent' | 'left'

/** How long the tab that signs out waits to hear that others have something to send, and then for them to have sent it; ms. */
const HEARS_MS = 60
const SENDS_MS = 3000

const open = (): BroadcastChannel | null => (typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('level-table'))

/**
 * Leaves together with the other tabs: a session is the browser’s, and so is what they show.
 * @param send what this tab still has to send; told by another that signs out
 * @param left wipes this tab, at once
 */
export function leaveTogether(send: () => Promise<unknown>, left: () => unknown): void {
  const channel = open()
  channel?.addEventListener('message', ({ data }: MessageEvent<Told>) => {
    if (data === 'left') left()
    if (data !== 'leaving') return
    channel.postMessage('waits' satisfies Told)
    void send().finally(() => channel.postMessage('sent' satisfies Told))
  })
}

/** Has the other tabs send what waits in them. */
export async function othersSend(): Promise<void> {
  const channel = open()
  if (!channel) return
  let waiting = 0
  await new Promise<void>((done) => {
    const hears = setTimeout(() => waiting === 0 && done(), HEARS_MS)
    const enough = setTimeout(done, SENDS_MS)
    channel.addEventListener('message', ({ data }: MessageEvent<Told>) => {
      if (data === 'waits') waiting++
      if (data === 'sent' && --waiting === 0) {
        clearTimeout(hears)
        clearTimeout(enough)
        done()
      }
    })
    channel.postMessage('leaving' satisfies Told)
  })
  channel.close()
}

/** Tells the other tabs that nobody is signed in any more. */
export function tellLeft(): void {
  const channel = open()
  channel?.postMessage('left' satisfies Told)
  channel?.close()
}
