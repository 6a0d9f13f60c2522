import { copyFileSync, mkdirSync, renameSync } from 'node:fs'
import { dirname, join } from 'node:path'
import type Database from 'better-sqlite3'

/** Copies a database as it is before its tables change, beside the other backups. @returns where it lies */
export function copyBeforeMigration(db: Database.Database, from: number): string {
  const folder = join(dirname(db.name), 'backups')
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  db.pragma('wal_checkpoint(TRUNCATE)')
  const copy = join(folder, `before-migration-${from}-${new Date().toISOString().replace(/[:.]/g, '-')}.db`)
  copyFileSync(db.name, `${copy}.partial`)
  renameSync(`${copy}.partial`, copy)
  return copy
}
