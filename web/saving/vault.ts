import { xchacha20poly1305 } from '@noble/ciphers/chacha'
import { bytesToUtf8, utf8ToBytes } from '@noble/ciphers/utils'
import { fromByteArray, toByteArray } from 'base64-js'
import { page } from '../api/client'
import { doWhatWaits } from './after-drawing'

const NONCE = 24
/** What stays in the browser when its person leaves: how it looks and is used, and work that could not be sent, which is sealed. */
const STAYS = /^level-table-(names|single-keys|appearance)$|^level-table-(trial|writes|cells|reading|making|came|set) /

/**
 * What a browser keeps of a person's work, sealed with a key that only signing in gives: whoever opens the browser after they
 * signed out finds nothing that can be read. The names of entries hold ids alone.
 */
export const vault = {
  /** @throws where the browser has no room for it */
  set(name: string, text: string): void {
    if (!page.keepKey) return
    const nonce = crypto.getRandomValues(new Uint8Array(NONCE))
    const sealed = xchacha20poly1305(toByteArray(page.keepKey), nonce).encrypt(utf8ToBytes(text))
    const whole = new Uint8Array(NONCE + sealed.length)
    whole.set(nonce)
    whole.set(sealed, NONCE)
    localStorage.setItem(name, fromByteArray(whole))
  },
  /** Null where nothing is kept under the name, or it is sealed with another key. */
  get(name: string): string | null {
    doWhatWaits()
    const kept = localStorage.getItem(name)
    if (kept === null || !page.keepKey) return null
    try {
      const whole = toByteArray(kept)
      return bytesToUtf8(xchacha20poly1305(toByteArray(page.keepKey), whole.subarray(0, NONCE)).decrypt(whole.subarray(NONCE)))
    } catch {
      return null
    }
  },
  drop: (name: string): void => localStorage.removeItem(name),
  /** Drops all that must not be found in the browser once its person has left. */
  leave(): void {
    doWhatWaits()
    for (const name of Object.keys(localStorage)) if (!STAYS.test(name)) localStorage.removeItem(name)
    sessionStorage.clear()
  },
  names(): string[] {
    doWhatWaits()
    return Object.keys(localStorage)
  },
}
