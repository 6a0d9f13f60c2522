import { chmodSync, mkdirSync } from 'node:fs'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { isOfSqlite } from '../../kernel/db/of-sqlite'

/** Somebody else works on the data; the message says what to do. */
export class DataHeldError extends Error {
  override name = 'DataHeldError'
}

/**
 * Holds a data folder for one server or one restore at a time. The lock is the operating system’s, so that a crash lets go of it.
 * @returns what lets go @throws DataHeldError
 */
export function holdData(data: string): () => void {
  mkdirSync(data, { recursive: true, mode: 0o700 })
  const file = join(data, 'held')
  const lock = new Database(file, { timeout: 0 })
  try {
    chmodSync(file, 0o600)
    lock.pragma('journal_mode = DELETE')
    lock.exec('BEGIN EXCLUSIVE')
  } catch (e) {
    lock.close()
    if (isOfSqlite(e) && e.code.startsWith('SQLITE_BUSY'))
      throw new DataHeldError(`A server is running on ${data}, or a restore: stop it first.`)
    throw e
  }
  return () => lock.close()
}
