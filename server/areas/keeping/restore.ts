import { copyFile, link, mkdir, rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { checkBackUp, checkDatabase, copyLetters, DATABASE, isThere, toDisk, type Manifest } from './back-up'
import { holdData } from './hold-data'

/**
 * Puts a backup in place of the data. What was there is kept aside; at every moment the database is either the one before or the
 * one restored, whole.
 * @returns what was restored, and the folder that what was there lies in; null where nothing was there
 * @throws BackUpError, DataHeldError
 */
export async function restore(backUp: string, data: string): Promise<{ manifest: Manifest; aside: string | null }> {
  const letGo = holdData(data)
  try {
    const manifest = await checkBackUp(backUp)
    const now = join(data, DATABASE)
    const partial = join(data, `${DATABASE}.partial`)
    await copyFile(join(backUp, DATABASE), partial)
    checkDatabase(partial)
    await toDisk(partial)
    let aside: string | null = null
    if (await isThere(now)) {
      settle(now)
      aside = join(data, `before-restore-${new Date().toISOString().replace(/[:.]/g, '-')}`)
      await mkdir(aside, { mode: 0o700 })
      await link(now, join(aside, DATABASE))
    }
    // What belonged to the database before must not be taken for the restored one’s.
    for (const ending of ['-wal', '-shm']) await rm(now + ending, { force: true })
    await rename(partial, now)
    await toDisk(data)
    await copyLetters(backUp, data)
    return { manifest, aside }
  } finally {
    letGo()
  }
}

/** Brings what is still beside a database into it. */
function settle(file: string): void {
  const db = new Database(file)
  db.pragma('wal_checkpoint(TRUNCATE)')
  db.close()
}
