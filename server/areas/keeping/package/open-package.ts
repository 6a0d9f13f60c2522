import { readFile } from 'node:fs/promises'
import { join } from 'node:path'
import { parse } from 'csv-parse'
import { z } from 'zod'
import { DESCRIPTION } from '#core/exchange/data-package'
import { FileError } from '#core/exchange/delimited'
import { openFile } from '#core/exchange/formats'
import { gradeWorkings, workingsOf } from '#core/trial'
import { contentHash } from '../../../kernel/course/issue-content'
import { planLoader } from '../../../kernel/course/load-plan'
import { tableLoader } from '../../../kernel/course/load-table'
import { isOfSqlite } from '../../../kernel/db/of-sqlite'
import { latestVersion, openDatabase, type Db } from '../../../kernel/db/open'
import { sha256 } from '../../../kernel/sha256'
import type { IssueContent } from '#contract'
import { fromCell } from './cells'
import { peopleOf, shapes, type TableShape } from './columns'
import { JSON_COLUMNS } from './json-columns'
import { pathOf } from './take-out'

/** Bytes that may come out of a package. */
const MOST_BYTES = 800_000_000
/** The schema that the first packages were of. */
const FIRST_SCHEMA = 17

const Description = z.looseObject({
  levelTable: z.looseObject({
    course: z.string().min(1).max(80),
    schema: z.number().int().min(FIRST_SCHEMA),
    rows: z.record(z.string(), z.number().int()),
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
  const { files } = openFile(await readFile(file), ['data package'], { most: MOST_BYTES })
  const { levelTable, resources } = describe(files.get(DESCRIPTION)!)
  const { course: courseId, schema, rows } = levelTable
  if (schema > latestVersion())
    throw new FileError('The package was taken out of a newer Level Table than this one: update this one first.')
  const scratch = join(folder, 'course.db')
  const db = openDatabase(scratch, schema)
  try {
    db.pragma('synchronous = OFF')
    db.pragma('foreign_keys = OFF')
    const all = shapes(db)
    for (const table of all) {
      const bytes = files.get(pathOf(table))
      const said = resources.find((r) => r.path === pathOf(table))
      if (!bytes || !said) throw new FileError(`The package has no ${pathOf(table)}: take the course out again.`)
      if (sha256(bytes) !== said.hash.replace(/^sha256:/, ''))
        throw new FileError(`${pathOf(table)} is not as it was taken out: its hash differs.`)
      const read = await fill(db, table, bytes)
      if (read !== rows[table.name]) throw new FileError(`${pathOf(table)} has ${read} rows, and should have ${rows[table.name] ?? 0}.`)
    }
  } finally {
    db.close()
  }
  // From an older schema on to this one's.
  const whole = openDatabase(scratch)
  try {
    check(whole, courseId)
  } finally {
    whole.close()
  }
  return { scratch, courseId }
}

function describe(bytes: Uint8Array): z.infer<typeof Description> {
  try {
    return Description.parse(JSON.parse(new TextDecoder().decode(bytes)))
  } catch {
    throw new FileError(`${DESCRIPTION} is not that of a course taken out of Level Table.`)
  }
}

async function fill(db: Db, table: TableShape, bytes: Uint8Array): Promise<number> {
  const path = pathOf(table)
  // A person comes without the passphrase that lets them in somewhere else.
  const extra = table.name === 'person' ? [['passphrase_hash', "''"]] : []
  const names = [...table.columns.map((c) => `"${c}"`), ...extra.map(([c]) => c)].join(', ')
  const values = [...table.columns.map(() => '?'), ...extra.map(([, v]) => v)].join(', ')
  const insert = db.prepare(`INSERT INTO "${table.name}" (${names}) VALUES (${values})`)
  const json = Object.entries(JSON_COLUMNS[table.name] ?? {})
  let line = 0
  const parser = parse(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength), { relax_column_count: true })
  db.exec('BEGIN')
  for await (const cells of parser as AsyncIterable<string[]>) {
    line++
    const at = `${path}, row ${line}`
    if (line === 1) {
      if (cells.join() !== table.columns.join())
        throw new FileError(`${path} has the columns ${cells.join(', ')}, and should have ${table.columns.join(', ')}.`)
      continue
    }
    if (cells.length !== table.columns.length) throw new FileError(`${at}: ${cells.length} cells, and should be ${table.columns.length}.`)
    const row = table.shape.map((column, i) => {
      const value = fromCell(cells[i]!, column)
      if (value === undefined) throw new FileError(`${at}: “${cells[i]!.slice(0, 60)}” cannot be ${column.name}.`)
      return value
    })
    for (const [name, kind] of json) checkJson(kind, row, table, name, at)
    try {
      insert.run(row)
    } catch (e) {
      if (isOfSqlite(e)) throw new FileError(`${at}: ${e.message}.`)
      throw e
    }
  }
  db.exec('COMMIT')
  return Math.max(0, line - 1)
}

function checkJson(kind: (typeof JSON_COLUMNS)[string][string], row: unknown[], table: TableShape, name: string, at: string): void {
  const place = table.columns.indexOf(name)
  const text = row[place]
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

/** @throws FileError where the rows do not hold together */
function check(db: Db, courseId: string): void {
  const loose = db.pragma('foreign_key_check') as { table: string; rowid: number; parent: string }[]
  if (loose.length > 0)
    throw new FileError(
      `${pathOf({ name: loose[0]!.table })}, row ${loose[0]!.rowid + 1}: the ${loose[0]!.parent} that it refers to is not in the package.`,
    )
  const all = shapes(db)
  for (const t of all) {
    const where = t.rows === 'PEOPLE' ? `t.id IN (${peopleOf(all)})` : t.rows
    const others = db
      .prepare<[{ course: string }], { n: number }>(`SELECT count(*) AS n FROM "${t.name}" t WHERE NOT (${where})`)
      .get({ course: courseId })!.n
    if (others > 0) throw new FileError(`${pathOf(t)} has ${others} rows that do not belong to the course.`)
  }
  // Where names were taken out of them since, the hash is that of what was confirmed.
  const issues = db
    .prepare<[], { number: number; content: string; hash: string }>(
      'SELECT i.number, i.content, i.hash FROM issue i JOIN course c ON c.id = i.course_id WHERE c.nameless_at IS NULL',
    )
    .all()
  for (const { number, content, hash } of issues)
    if (contentHash(JSON.parse(content) as IssueContent) !== hash)
      throw new FileError(`Issue ${number} is not as it was confirmed: its hash differs.`)
  try {
    gradeWorkings(workingsOf(tableLoader(db, planLoader(db)).load(courseId)))
  } catch (e) {
    throw new FileError(`The course cannot be worked out from what is in the package: ${e instanceof Error ? e.message : String(e)}`)
  }
}
