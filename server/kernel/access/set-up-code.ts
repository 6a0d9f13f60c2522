import { randomInt, timingSafeEqual } from 'node:crypto'
import type { Db } from '../db/open'

// Without those that are taken for one another.
const SIGNS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789'
const plain = (code: string) => code.toUpperCase().replace(/[^A-Z0-9]/g, '')

/** The code that whoever sets the installation up reads from its console: made at each start as long as nobody is here. */
export function setUpCode(db: Db) {
  const anybody = db.prepare<[], { n: number }>('SELECT count(*) AS n FROM person')
  const nobodyIsHere = () => anybody.get()!.n === 0
  const code = Array.from({ length: 12 }, (_, i) => (i > 0 && i % 4 === 0 ? '-' : '') + SIGNS[randomInt(SIGNS.length)]!).join('')
  return {
    nobodyIsHere,
    /** To be printed to the console, and kept nowhere. */
    code,
    fits: (typed: string): boolean => {
      const [a, b] = [Buffer.from(plain(typed)), Buffer.from(plain(code))]
      return nobodyIsHere() && a.length === b.length && timingSafeEqual(a, b)
    },
  }
}

export type SetUpCode = ReturnType<typeof setUpCode>
