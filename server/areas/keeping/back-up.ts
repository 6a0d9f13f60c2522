import { createHash } from 'node:crypto'
import { createReadStream } from 'node:fs'
import { cp, mkdir, open, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises'
import { basename, dirname, join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import Database from 'better-sqlite3'
import { isOfSqlite } from '../../kernel/db/of-sqlite'
import { INSTALLATION } from '../../standins/post'

export const DATABASE = 'level-table.db'
const MANIFEST = 'manifest.json'
/** Letters that were sent, which the pages still show. */
const LETTERS = 'post'

/** What a backup says of itself; without one it is none. */
export interface Manifest {
  at: string
  /** Of the database’s schema. */
  version: number
  /** Rows by table. */
  rows: Record<string, number>
  bytes: number
  /** SHA-256 of the database file, in hex. */
  hash: string
}

export interface BackUp extends Manifest {
  name: string
}

/** A backup is not good, or cannot be made; the message says why. */
export class BackUpError extends Error {
  override name = 'BackUpError'
}

/**
 * Makes a backup of a database in a folder of its own, while others read and write. It counts once it was checked: its pages, its
 * references, its rows. A folder that ends in `.partial` is what a crash left of one, and is no backup.
 * @param file the database
 * @param into the folder that backups lie in
 * @throws BackUpError
 */
export async function backUp({ file, into }: { file: string; into: string }): Promise<BackUp> {
  const at = new Date().toISOString()
  const name = `level-table-${at.replace(/[:.]/g, '-')}`
  const partial = join(into, `${name}.partial`)
  await mkdir(partial, { recursive: true, mode: 0o700 })
  const source = new Database(file, { readonly: true, fileMustExist: true })
  try {
    // Whole in one go: a writer meanwhile would make it begin again.
    await source.backup(join(partial, DATABASE), { progress: () => 2 ** 30 })
  } finally {
    source.close()
  }
  const { version, rows } = checkDatabase(join(partial, DATABASE))
  const letters = join(dirname(file), LETTERS)
  // Letters with a way in stay out: a backup goes to other disks, and what is in it must let nobody in.
  const filter = (from: string) => basename(from) !== INSTALLATION
  if (await isThere(letters)) await cp(letters, join(partial, LETTERS), { recursive: true, filter })
  const { size } = await stat(join(partial, DATABASE))
  const manifest: Manifest = { at, version, rows, bytes: size, hash: await hashOf(join(partial, DATABASE)) }
  await writeFile(join(partial, MANIFEST), JSON.stringify(manifest, null, 2), { mode: 0o600 })
  for (const part of [DATABASE, MANIFEST]) await toDisk(join(partial, part))
  await rename(partial, join(into, name))
  await toDisk(into)
  return { ...manifest, name }
}

/** Removes what is left of backups that were begun since a moment and never counted. */
export async function removePartial(folder: string, since: Date): Promise<void> {
  const first = `level-table-${since.toISOString().replace(/[:.]/g, '-')}`
  const names = (await readdir(folder).catch(() => [])).filter((n) => n.endsWith('.partial') && n >= first)
  await Promise.all(names.map((n) => rm(join(folder, n), { recursive: true, force: true })))
}

/** @throws BackUpError where pages are damaged or rows refer to nothing */
export function checkDatabase(file: string): Pick<Manifest, 'version' | 'rows'> {
  const db = new Database(file, { fileMustExist: true })
  try {
    // One file, with nothing beside it.
    db.pragma('journal_mode = DELETE')
    const [first] = db.pragma('integrity_check(1)', { simple: false }) as { integrity_check: string }[]
    if (first?.integrity_check !== 'ok') throw new BackUpError(`The database is damaged: ${first?.integrity_check}.`)
    const loose = (db.pragma('foreign_key_check') as unknown[]).length
    if (loose > 0) throw new BackUpError(`${loose} references in the database lead to nothing.`)
    const tables = db
      .prepare("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' ORDER BY name")
      .pluck()
      .all() as string[]
    const rows = Object.fromEntries(tables.map((t) => [t, db.prepare(`SELECT count(*) FROM "${t}"`).pluck().get() as number]))
    return { version: db.pragma('user_version', { simple: true }) as number, rows }
  } catch (e) {
    if (isOfSqlite(e)) throw new BackUpError(`The database cannot be read: ${e.message}.`)
    throw e
  } finally {
    db.close()
  }
}

/** Reads what a backup says of itself, and holds it against the file. @throws BackUpError */
export async function checkBackUp(folder: string): Promise<Manifest> {
  const manifest = await readManifest(folder)
  if (!manifest) throw new BackUpError(`${folder} holds no backup: there is no ${MANIFEST} in it.`)
  const file = join(folder, DATABASE)
  if (!(await isThere(file))) throw new BackUpError(`${folder} holds no database.`)
  if ((await hashOf(file)) !== manifest.hash)
    throw new BackUpError(`The database in ${folder} is not the one that was backed up: its hash differs.`)
  return manifest
}

/** The good backups of a folder, the latest first. */
export async function listBackUps(folder: string): Promise<BackUp[]> {
  const names = (await isThere(folder)) ? await readdir(folder) : []
  const found = await Promise.all(
    names.filter((n) => !n.endsWith('.partial')).map(async (name) => ({ name, manifest: await readManifest(join(folder, name)) })),
  )
  return found.flatMap(({ name, manifest }) => (manifest ? [{ ...manifest, name }] : [])).sort((a, b) => (a.at < b.at ? 1 : -1))
}

/** Takes away all but the latest so many, and what crashes left half done. */
export async function keepLatest(folder: string, keep: number): Promise<void> {
  const gone = (await listBackUps(folder)).slice(keep).map((b) => b.name)
  const half = (await isThere(folder)) ? (await readdir(folder)).filter((n) => n.endsWith('.partial')) : []
  for (const name of [...gone, ...half]) await rm(join(folder, basename(name)), { recursive: true, force: true })
}

export const copyLetters = async (from: string, data: string): Promise<void> => {
  if (await isThere(join(from, LETTERS))) await cp(join(from, LETTERS), join(data, LETTERS), { recursive: true })
}

async function readManifest(folder: string): Promise<Manifest | null> {
  try {
    const read = JSON.parse(await readFile(join(folder, MANIFEST), 'utf8')) as Manifest
    return typeof read.hash === 'string' && typeof read.at === 'string' ? read : null
  } catch {
    return null
  }
}

export const isThere = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  )

async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256')
  await pipeline(createReadStream(file), hash)
  return hash.digest('hex')
}

/** What was written, or renamed in a folder, is on the disk and not on its way. */
export async function toDisk(path: string): Promise<void> {
  const handle = await open(path, 'r')
  try {
    await handle.sync()
  } finally {
    await handle.close()
  }
}
