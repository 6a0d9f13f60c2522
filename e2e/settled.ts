import type { Page, Request } from '@playwright/test'

/** Follows what a page asks for. @returns waits until all of it is answered and drawn; the stream of events has no end and is left out */
export function settling(page: Page): () => Promise<void> {
  const open = new Set<Request>()
  let answered = () => {}
  const ended = (request: Request) => {
    open.delete(request)
    if (open.size === 0) answered()
  }
  page.on('request', (request) => {
    // Requests of the page before are no longer reported.
    if (request.isNavigationRequest()) open.clear()
    if (request.resourceType() !== 'eventsource') open.add(request)
  })
  page.on('requestfinished', ended)
  page.on('requestfailed', ended)
  const drawn = () => page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))))
  return async () => {
    await drawn()
    while (open.size > 0) {
      await new Promise<void>((done) => (answered = done))
      await drawn()
    }
  }
}
