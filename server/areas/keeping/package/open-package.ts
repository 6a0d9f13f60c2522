import { createHash } from 'node:crypto'
import { closeSync, createReadStream, openSync, readFileSync, writeSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { CsvError, parse } from 'csv-parse'
import { z } from 'zod'
import { DESCRIPTION } from '#core/exchange/data-package'
import { FileError } from '#core/exchange/delimited'
import { openFile } from '#core/exchange/formats'
import { unzipNames, unzipTo } from '#core/exchange/unzip'
import { isOfSqlite } from '../../../kernel/db/of-sqlite'
import { latestVersion, openDatabase, type Db } from '../../../kernel/db/open'
import { checkPackage } from './check-package'
import { fromCell, hashIn } from './cells'
import { LONG_CELLS, shapes, type TableShape } from './columns'
import { sha256 } from '../../../kernel/sha256'
import { JSON_COLUMNS } from './json-columns'
import { pathOf } from './take-out'

/** Bytes that may come out of a package: so many times its own, as tables are packed to a tenth or so; and so many at the most. */
const MOST_TIMES = 60
const ALWAYS_BYTES = 30_000_000
const MOST_BYTES = 1_500_000_000
/** Rows of all its tables together. */
const MOST_ROWS = 20_000_000
/** Bytes of one row: a work that was handed in is the largest cell there is. */
const MOST_ROW_BYTES = 40_000_000
/** The schema that the first packages were of. */
const FIRST_SCHEMA = 17
/** Ids of our own making: they become parts of addresses, and that of a course the name of a folder. */
const OWN_ID = /^[A-Za-z0-9](?!.*\.\.)[A-Za-z0-9._:~/-]{0,199}$/
const COURSE_ID = /^[A-Za-z0-9][A-Za-z0-9_-]{0,79}$/

const Description = z.looseObject({
  levelTable: z.looseObject({
    course: z.string().regex(COURSE_ID),
    schema: z.number().int().min(FIRST_SCHEMA),
    rows: z.record(z.string(), z.number().int().min(0)),
  }),
  resources: z.array(z.looseObject({ path: z.string(), bytes: z.number().int(), hash: z.string() })),
})

/**
 * Unpacks a data package into a database of its own, where everything that a course's tables have to hold is asked of it: each cell,
 * each check, each reference, that all of it belongs to the one course, that the course can be worked out, that what was confirmed has
 * its hash. Nothing of the installation is touched.
 * @param folder where that database is made; empty
 * @throws FileError that says where and what
 */
export async function openPackage(file: string, folder: string): Promise<{ scratch: string; courseId: string }> {
  const bytes = await readFile(file)
  openFile(bytes, ['data package'], { unzip: unzipNames })
  const unpacked = unpack(bytes, folder)
  const { levelTable, resources } = describe(unpacked.get(DESCRIPTION)!.at)
  const { course: courseId, schema, rows } = levelTable
  if (schema > latestVersion())
    throw new FileError('The package was taken out of a newer Level Table than this one: update this one first.')
  if (Object.values(rows).reduce((all, n) => all + n, 0) > MOST_ROWS)
    throw new FileError(`The package says that it has more than ${MOST_ROWS} rows: a course has not so many.`)
  const scratch = join(folder, 'course.db')
  const db = openDatabase(scratch, schema)
  try {
    db.pragma('synchronous = OFF')
    db.pragma('foreign_keys = OFF')
    db.pragma('cache_size = -32768')
    const all = shapes(db).filter((table) => table.columns.length > 0)
    db.exec('CREATE TEMP TABLE long_cells (hash TEXT NOT NULL, part INTEGER NOT NULL, text TEXT NOT NULL, PRIMARY KEY (hash, part))')
    // Earlier packages have all their cells in their tables.
    const first = unpacked.has(pathOf(LONG_CELLS)) ? [LONG_CELLS] : []
    for (const table of [...first, ...all]) {
      const part = unpacked.get(pathOf(table))
      const said = resources.find((r) => r.path === pathOf(table))
      if (!part || !said) throw new FileError(`The package has no ${pathOf(table)}: take the course out again.`)
      if (part.hash !== said.hash.replace(/^sha256:/, ''))
        throw new FileError(`${pathOf(table)} is not as it was taken out: its hash differs.`)
      const should = rows[table.name] ?? 0
      const read = await fill(db, table, part.at, should)
      if (read !== should) throw new FileError(`${pathOf(table)} has ${read} rows, and should have ${should}.`)
    }
  } finally {
    db.close()
  }
  // From an older schema on to this one's.
  const whole = openDatabase(scratch)
  try {
    whole.pragma('cache_size = -32768')
    checkPackage(whole, courseId)
  } finally {
    whole.close()
  }
  return { scratch, courseId }
}

interface Part {
  /** The file that it was unpacked into. */
  at: string
  hash: string
}

/** Unpacks to disk, part by part, what belongs to a package, by its path; names in the archive never become names of files. */
function unpack(bytes: Uint8Array, folder: string): Map<string, Part> {
  const parts = new Map<string, Part>()
  const most = Math.min(MOST_BYTES, Math.max(ALWAYS_BYTES, bytes.length * MOST_TIMES))
  const open = new Set<number>()
  try {
    unzipTo(
      bytes,
      (name) => {
        if (name !== DESCRIPTION && !/^data\/\w+\.csv$/.test(name)) return null
        const at = join(folder, `part-${parts.size}`)
        const out = openSync(at, 'wx', 0o600)
        open.add(out)
        const hash = createHash('sha256')
        return (part, last) => {
          hash.update(part)
          writeSync(out, part)
          if (!last) return
          parts.set(name, { at, hash: hash.digest('hex') })
          closeSync(out)
          open.delete(out)
        }
      },
      most,
    )
  } finally {
    for (const out of open) closeSync(out)
  }
  return parts
}

function describe(at: string): z.infer<typeof Description> {
  try {
    return Description.parse(JSON.parse(readFileSync(at, 'utf8')))
  } catch {
    throw new FileError(`${DESCRIPTION} is not that of a course taken out of Level Table.`)
  }
}

async function fill(db: Db, table: TableShape, at: string, should: number): Promise<number> {
  const path = pathOf(table)
  // A person comes without the passphrase that lets them in somewhere else.
  const extra = table.name === 'person' ? [['passphrase_hash', "''"]] : []
  const names = [...table.columns.map((c) => `"${c}"`), ...extra.map(([c]) => c)].join(', ')
  const values = [...table.columns.map(() => '?'), ...extra.map(([, v]) => v)].join(', ')
  const insert = db.prepare(`INSERT INTO "${table.name}" (${names}) VALUES (${values})`)
  // What the schema of the package does not have yet is not asked of it.
  const json = Object.entries(JSON_COLUMNS[table.name] ?? {}).filter(([name]) => table.columns.includes(name))
  const ids = table.columns.flatMap((c, i) => (c === 'id' || table.references.some((r) => r.columns.includes(c)) ? [i] : []))
  const partsOf = db.prepare<[string], { text: string }>('SELECT text FROM long_cells WHERE hash = ? ORDER BY part')
  const longCell = (hash: string, where: string): string => {
    const text = partsOf
      .all(hash)
      .map((p) => p.text)
      .join('')
    if (sha256(text) !== hash)
      throw new FileError(`${where}: its long cell ${hash.slice(0, 12)}… is not in ${pathOf(LONG_CELLS)} as it was.`)
    return text
  }
  let line = 0
  const parser = createReadStream(at).pipe(parse({ relax_column_count: true, max_record_size: MOST_ROW_BYTES }))
  db.exec('BEGIN')
  try {
    for await (const cells of parser as AsyncIterable<string[]>) {
      line++
      const where = `${path}, row ${line}`
      if (line === 1) {
        if (cells.join() !== table.columns.join())
          throw new FileError(`${path} has the columns ${cells.join(', ').slice(0, 500)}, and should have ${table.columns.join(', ')}.`)
        continue
      }
      if (line - 1 > should) throw new FileError(`${path} has more rows than the ${should} that it should have.`)
      if (cells.length !== table.columns.length)
        throw new FileError(`${where}: ${cells.length} cells, and should be ${table.columns.length}.`)
      const row = table.shape.map((column, i) => {
        const elsewhere = hashIn(cells[i]!)
        const value = fromCell(elsewhere === null ? cells[i]! : longCell(elsewhere, where), column)
        if (value === undefined) throw new FileError(`${where}: “${cells[i]!.slice(0, 60)}” cannot be ${column.name}.`)
        return value
      })
      for (const i of ids)
        if (typeof row[i] === 'string' && !OWN_ID.test(row[i]))
          throw new FileError(`${where}: “${row[i].slice(0, 60)}” cannot be ${table.columns[i]}: it is no id of ours.`)
      for (const [name, kind] of json) checkJson(kind, row, table, name, where)
      insert.run(row)
    }
  } catch (e) {
    if (e instanceof CsvError) {
      // The reader is ahead of the rows that came from it.
      const row = ((e as { records?: number }).records ?? line) + 1
      if (e.code === 'CSV_MAX_RECORD_SIZE') throw new FileError(`${path}, row ${row} is larger than any row of ours.`)
      throw new FileError(`${path}, row ${row}: a quotation mark is missing, or stands where none can.`)
    }
    if (isOfSqlite(e)) throw new FileError(`${path}, row ${line}: ${e.message}.`)
    throw e
  }
  db.exec('COMMIT')
  return Math.max(0, line - 1)
}

function checkJson(kind: (typeof JSON_COLUMNS)[string][string], row: unknown[], table: TableShape, name: string, at: string): void {
  const text = row[table.columns.indexOf(name)]
  const asked = typeof kind === 'function' ? kind(Object.fromEntries(table.columns.map((c, i) => [c, row[i]]))) : kind
  let value: unknown
  try {
    value = text === null ? null : JSON.parse(String(text))
  } catch {
    throw new FileError(`${at}: ${name} is no JSON.`)
  }
  const read = asked.safeParse(value)
  if (!read.success)
    throw new FileError(
      `${at}: ${name} is not what it should be (${read.error.issues[0]!.path.join('.')}: ${read.error.issues[0]!.message}).`,
    )
}
