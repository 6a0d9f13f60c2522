import Database from 'better-sqlite3'
import { chmodSync, closeSync, mkdirSync, openSync, readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { sha256 } from '../sha256'
import { copyBeforeMigration } from './before-migration'
import { writing } from './transactions'

export type Db = Database.Database

const MIGRATIONS = join(process.cwd(), 'server/kernel/db/migrations')

/** The database was made by a newer program than this one; the message says what to do. */
export class NewerDatabaseError extends Error {
  override name = 'NewerDatabaseError'
}

/** That a database came to a newer schema, and where a copy of it lies as it was. */
export interface Migrated {
  from: number
  to: number
  copy: string
}

/**
 * Opens the database, durable at every acknowledged write, and brings it up to date.
 * @param upTo number of the last migration to run; all of them where it is not given
 * @param told called with what was done to a database of an earlier version
 * @throws NewerDatabaseError where the file was made by a newer version
 */
export function openDatabase(file: string, upTo = Infinity, told?: (migrated: Migrated) => void): Db {
  if (file !== ':memory:') {
    // For the server's own account alone, whatever the umask; what the database keeps beside it takes its mode from it.
    mkdirSync(dirname(file), { recursive: true, mode: 0o700 })
    chmodSync(dirname(file), 0o700)
    closeSync(openSync(file, 'a', 0o600))
    chmodSync(file, 0o600)
  }
  const db = new Database(file)
  db.pragma('journal_mode = WAL')
  db.pragma('synchronous = FULL')
  db.pragma('busy_timeout = 5000')
  db.pragma('cache_size = -262144')
  // A migration may replace a table that others refer to, so references are checked at its end and not on the way.
  db.pragma('foreign_keys = OFF')
  // Migrations hash what older schemas kept as it was.
  db.function('sha256', { deterministic: true }, (text: unknown) => sha256(String(text)))
  try {
    const migrated = migrate(db, upTo)
    if (migrated) told?.(migrated)
  } catch (e) {
    db.close()
    throw e
  }
  db.pragma('foreign_keys = ON')
  return db
}

const migrations = (): string[] =>
  readdirSync(MIGRATIONS)
    .filter((f) => /^\d{4}_.+\.sql$/.test(f))
    .sort()

/** The schema that this program knows. */
export const latestVersion = (): number => Number(migrations().at(-1)?.slice(0, 4) ?? 0)

/** @returns what it did to a database that was there before; null for one that is new or needs nothing */
function migrate(db: Db, upTo: number): Migrated | null {
  const files = migrations()
  const at = db.pragma('user_version', { simple: true }) as number
  const last = latestVersion()
  if (at > last)
    throw new NewerDatabaseError(`The database ${db.name} is at version ${at}, and this program knows ${last}: start the newer program.`)
  const to = Math.min(last, upTo)
  const copy = at > 0 && at < to && db.name !== ':memory:' ? copyBeforeMigration(db, at) : null
  for (const file of files) {
    const number = Number(file.slice(0, 4))
    if (number <= at || number > upTo) continue
    writing(db, () => {
      db.exec(readFileSync(join(MIGRATIONS, file), 'utf8'))
      const broken = db.pragma('foreign_key_check') as unknown[]
      if (broken.length > 0) throw new Error(`Migration ${file} leaves ${broken.length} rows that refer to nothing.`)
      db.pragma(`user_version = ${number}`)
    })
  }
  return copy === null ? null : { from: at, to, copy }
}

/** A rising stamp for what is written, as ISO 8601 in UTC. */
export const now = (): string => new Date().toISOString()
