/** The longest that it waits where the page is never at rest; ms. */
const LATEST_MS = 100

const waiting = new Set<() => void>()
let doing = false

/**
 * Does something that no one looks at once the page has been drawn: sealing what was typed takes longer than drawing it.
 * It is done in the order it was last asked for, once however often that was, and before the page is left.
 */
export function afterDrawing(work: () => void): void {
  if (waiting.size === 0) atRest()
  // At the end also where it waits already: of two that write the same the later one stands.
  waiting.delete(work)
  waiting.add(work)
}

/** Does at once what waits, for whoever reads what it writes. */
export function doWhatWaits(): void {
  // One that reads what an earlier one wrote does not begin a later one.
  if (doing) return
  doing = true
  try {
    for (const work of waiting) {
      waiting.delete(work)
      work()
    }
  } finally {
    doing = false
    if (waiting.size > 0) atRest()
  }
}

function atRest(): void {
  // Not every browser tells when it is at rest.
  if ('requestIdleCallback' in globalThis) requestIdleCallback(doWhatWaits, { timeout: LATEST_MS })
  else setTimeout(doWhatWaits)
}

if (typeof window !== 'undefined') window.addEventListener('pagehide', doWhatWaits)
