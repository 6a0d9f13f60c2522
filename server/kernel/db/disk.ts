import type { Db } from './open'
import { writing } from './transactions'

const FULL = new Set(['SQLITE_FULL', 'SQLITE_IOERR_WRITE', 'SQLITE_IOERR_SHMSIZE', 'ENOSPC', 'EDQUOT'])

/** Whether something failed because the disk takes no more. What comes from a worker has lost its code and kept its words. */
export function isDiskFull(e: unknown): boolean {
  const { code, message } = (e ?? {}) as { code?: unknown; message?: unknown }
  return FULL.has(String(code)) || /database or disk is full|\bENOSPC\b/.test(String(message))
}

/** How long an answer that it can be written holds; ms. */
const HOLDS_MS = 5000
const SAMPLE = 'x'.repeat(16_384)

/** Whether the database can be written, found out by a small write that leaves nothing behind. */
export function diskCheck(db: Db) {
  const put = db.prepare("INSERT INTO setting (key, value) VALUES ('room on the disk', ?)")
  const remove = db.prepare("DELETE FROM setting WHERE key = 'room on the disk'")
  let goodUntil = -Infinity
  return {
    /** A write was refused, so that nobody is answered from before. */
    refused: (): void => void (goodUntil = -Infinity),
    canWrite(): boolean {
      if (performance.now() < goodUntil) return true
      try {
        writing(db, () => {
          put.run(SAMPLE)
          remove.run()
        })
        goodUntil = performance.now() + HOLDS_MS
        return true
      } catch (e) {
        if (isDiskFull(e)) return false
        throw e
      }
    },
  }
}
