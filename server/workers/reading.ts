import Database from 'better-sqlite3'
import type { Db } from '../kernel/db/open'
import { readingTogether } from '../kernel/db/transactions'

/** Reads from a database, all of it as it was at one moment. */
export function reading<T>(file: string, work: (db: Db) => T): T {
  const db = new Database(file, { readonly: true, fileMustExist: true })
  try {
    return readingTogether(db, () => work(db))
  } finally {
    db.close()
  }
}
