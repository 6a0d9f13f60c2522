import { createHash } from 'node:crypto'
import { closeSync, openSync, writeSync } from 'node:fs'
import Database from 'better-sqlite3'
import { strToU8, Zip, ZipDeflate } from 'fflate'
import { csvOf } from '#core/exchange/write-delimited'
import { DESCRIPTION, tablePath } from '#core/exchange/data-package'
import { tabularResource, type Field } from '../../../kernel/data-package'
import { longCellAt, LONGEST_CELL, NOTHING, partsOf, toCell } from './cells'
import { LONG_CELLS, peopleOf, shapes, type Column, type TableShape } from './columns'
import { sha256 } from '../../../kernel/sha256'
import { readingTogether } from '../../../kernel/db/transactions'

/** Rows that are written in one go. */
const CHUNK = 2000

const TYPES: Record<Column['type'], Pick<Field, 'type' | 'format'>> = {
  TEXT: { type: 'string' },
  INTEGER: { type: 'integer' },
  REAL: { type: 'number' },
  BLOB: { type: 'string', format: 'binary' },
}

/** A resource of a data package, with its table schema. */
const resourceOf = (t: TableShape, bytes: number, hash: string) =>
  tabularResource(
    {
      name: t.name.replaceAll('_', '-'),
      path: pathOf(t),
      bytes,
      hash,
      missing: NOTHING,
      fields: t.shape.map(({ name, type, required }) => ({ name, ...TYPES[type], required })),
    },
    {
      ...(t.key.length > 0 ? { primaryKey: t.key } : {}),
      foreignKeys: t.references.map(({ columns, table, referred }) => ({
        fields: columns,
        reference: { resource: table.replaceAll('_', '-'), fields: referred },
      })),
    },
  )

export const pathOf = (t: { name: string }): string => tablePath(t.name)

function* map<A, B>(of: Iterable<A>, to: (a: A) => B): Iterable<B> {
  for (const a of of) yield to(a)
}

/** Long cells in parts, each cell once; read again one by one, as all of them together may be large. */
function* longRows(
  db: Database.Database,
  long: readonly { table: string; rowid: number; column: string; hash: string }[],
): Iterable<string[]> {
  for (const { table, rowid, column, hash } of new Map(long.map((l) => [l.hash, l])).values()) {
    const value = db.prepare(`SELECT "${column}" FROM "${table}" WHERE rowid = ?`).pluck().get(rowid)
    for (const [part, text] of partsOf(toCell(value)).entries()) yield [hash, String(part), toCell(text)]
  }
}

export interface CourseToTake {
  /** The database. */
  file: string
  courseId: string
  /** The file to write. */
  into: string
  /** The lead who takes it out, with what they are shown; null for all of it. */
  personId: string | null
}

/**
 * Takes a course out as a data package: all its tables as CSV with their schemas, zipped. The tables are read as they were at one
 * moment.
 * @returns rows by table
 */
export function takeOut({ file, courseId, into, personId }: CourseToTake): Record<string, number> {
  const db = new Database(file, { readonly: true, fileMustExist: true })
  const out = openSync(into, 'wx', 0o600)
  const rows: Record<string, number> = {}
  try {
    const zip = new Zip((error, data) => {
      if (error) throw error
      writeSync(out, data)
    })
    const add = (name: string) => {
      const part = new ZipDeflate(name, { level: 6 })
      zip.add(part)
      return part
    }
    readingTogether(db, () => {
      const all = shapes(db)
      const resources: object[] = []
      /** Writes a table by chunks of its rows. */
      const writeTable = (table: TableShape, rowsOf: Iterable<string[]>) => {
        const part = add(pathOf(table))
        const hash = createHash('sha256')
        let bytes = 0
        const write = (lines: readonly (readonly string[])[]) => {
          const text = strToU8(csvOf(lines))
          hash.update(text)
          bytes += text.length
          part.push(text)
        }
        write([table.columns])
        rows[table.name] = 0
        let chunk: string[][] = []
        for (const row of rowsOf) {
          chunk.push(row)
          rows[table.name]!++
          if (chunk.length < CHUNK) continue
          write(chunk)
          chunk = []
        }
        if (chunk.length > 0) write(chunk)
        part.push(new Uint8Array(), true)
        resources.push(resourceOf(table, bytes, hash.digest('hex')))
      }
      const long: { table: string; rowid: number; column: string; hash: string }[] = []
      for (const table of all) {
        const rowsOf = table.rows === 'PEOPLE' ? `t.id IN (${peopleOf(all)})` : table.rows
        const where = table.shown && personId !== null ? `${rowsOf} AND ${table.shown}` : rowsOf
        const select = db.prepare<[{ course: string; person?: string }], unknown[]>(
          `SELECT t.rowid, ${table.columns.map((c) => `t."${c}"`).join(', ')} FROM "${table.name}" t WHERE ${where} ORDER BY t.rowid`,
        )
        const found = select.raw().iterate({ course: courseId, ...(table.shown && personId !== null ? { person: personId } : {}) })
        writeTable(
          table,
          map(found, ([rowid, ...values]) =>
            values.map((value, i) => {
              const cell = toCell(value)
              if (cell.length <= LONGEST_CELL) return cell
              const hash = sha256(cell)
              long.push({ table: table.name, rowid: rowid as number, column: table.columns[i]!, hash })
              return longCellAt(hash)
            }),
          ),
        )
      }
      writeTable(LONG_CELLS, longRows(db, long))
      const course = db
        .prepare<[string], { code: string; title: string; term: string }>('SELECT code, title, term FROM course WHERE id = ?')
        .get(courseId)!
      const description = {
        profile: 'data-package',
        name: `course-${courseId.toLowerCase().replace(/[^a-z0-9]+/g, '-')}`,
        title: `${course.code} ${course.title}, ${course.term}`,
        created: new Date().toISOString(),
        levelTable: { course: courseId, schema: db.pragma('user_version', { simple: true }) as number, rows },
        resources,
      }
      add(DESCRIPTION).push(strToU8(JSON.stringify(description, null, 2)), true)
    })
    zip.end()
  } finally {
    closeSync(out)
    db.close()
  }
  return rows
}
