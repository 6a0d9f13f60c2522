import { mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { ROWS } from '../../testing/rows-by-version'
import { openDatabase, type Db, type Migrated } from './open'

const LATEST = readdirSync('server/kernel/db/migrations').length
let folder: string
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'level-table-migrations-'))))
afterEach(() => rmSync(folder, { recursive: true, force: true }))

/** A database as a program of that version left it, with a row of everything that it knew of. */
function leftBy(version: number, file: string): Record<string, number> {
  for (let v = 1; v <= version; v++) {
    const db = openDatabase(file, v)
    db.exec(ROWS[v] ?? '')
    if (v === version) {
      const counts = countRows(db)
      db.close()
      return counts
    }
    db.close()
  }
  return {}
}
const tablesOf = (db: Db) =>
  db.prepare<[], { name: string }>("SELECT name FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite%' ORDER BY name").all()
const countRows = (db: Db): Record<string, number> =>
  Object.fromEntries(tablesOf(db).map(({ name }) => [name, (db.prepare(`SELECT count(*) AS n FROM ${name}`).get() as { n: number }).n]))
const schemaOf = (db: Db) => db.prepare("SELECT type, name, sql FROM sqlite_master WHERE name NOT LIKE 'sqlite%' ORDER BY type, name").all()

describe.each(Array.from({ length: LATEST - 1 }, (_, i) => i + 1))('a database that version %i left', (version) => {
  test('comes to the schema that a new one has, whole and with every row', () => {
    const file = join(folder, 'level-table.db')
    const before = leftBy(version, file)
    const db = openDatabase(file)
    const fresh = openDatabase(join(folder, 'fresh.db'))
    expect(schemaOf(db)).toEqual(schemaOf(fresh))
    expect([db.pragma('foreign_key_check'), db.pragma('integrity_check', { simple: true })]).toEqual([[], 'ok'])
    const after = countRows(db)
    // What stood for faults that somebody had set is not carried on: they are set anew.
    const { stand_in_fault: _, ...kept } = before
    expect(Object.fromEntries(Object.keys(kept).map((name) => [name, after[name]]))).toEqual(kept)
    fresh.close()
    db.close()
  })
})

test('every table has a row that is carried through', () => {
  const counts = leftBy(LATEST, join(folder, 'level-table.db'))
  expect(Object.entries(counts).flatMap(([name, n]) => (n === 0 ? [name] : []))).toEqual([])
})

test('a database of the first version is brought up to date with its references and refusals', () => {
  const file = join(folder, 'level-table.db')
  leftBy(1, file)
  const db = openDatabase(file)
  expect(db.pragma('user_version', { simple: true })).toBe(LATEST)
  expect(db.pragma('foreign_keys', { simple: true })).toBe(1)
  expect(db.prepare('SELECT mark, in_force, holds, over FROM agreed_mark').get()).toEqual({
    mark: 7,
    in_force: 1,
    holds: 1,
    over: '[["m",1,6.5]]',
  })
  expect(db.prepare('SELECT kind, summary FROM decision').get()).toEqual({ kind: 'reconcile', summary: 'settled' })
  expect(db.prepare('SELECT notes, worth_follows, away FROM assessment').get()).toEqual({ notes: '', worth_follows: 0, away: 0 })
  expect(() => db.prepare('DELETE FROM decision').run()).toThrow('withdrawn, never deleted')
  expect(() => db.prepare("UPDATE decision SET reason = 'other'").run()).toThrow('never rewritten')
  expect(() =>
    db.prepare("INSERT INTO agreed_mark (script_id, decision_id, mark, rule, in_force) VALUES ('a:x', 'none', 1, '{}', 0)").run(),
  ).toThrow(/FOREIGN KEY/)
  const plan = db.prepare(
    "INSERT INTO decision (id, course_id, seq, kind, summary, changes, effect, reason, made_by, made_at) SELECT 'd2', course_id, 2, 'plan', summary, changes, effect, reason, made_by, made_at FROM decision",
  )
  expect(plan.run().changes).toBe(1)
  db.close()
})

test('a database of a newer program is left alone', () => {
  const file = join(folder, 'level-table.db')
  const newer = new Database(file)
  newer.pragma('user_version = 99')
  newer.close()
  expect(() => openDatabase(file)).toThrow('start the newer program')
})

test('what was done to an older database is told, with the copy of it as it was; of a new one nothing is', () => {
  const file = join(folder, 'level-table.db')
  const told: Migrated[] = []
  leftBy(20, file)
  openDatabase(file, undefined, (m) => told.push(m)).close()
  openDatabase(file, undefined, (m) => told.push(m)).close()
  openDatabase(join(folder, 'new.db'), undefined, (m) => told.push(m)).close()
  expect(told).toEqual([{ from: 20, to: LATEST, copy: expect.stringMatching(/backups\/before-migration-20-.*\.db$/) as string }])
  const copy = new Database(told[0]!.copy, { readonly: true })
  expect(copy.pragma('user_version', { simple: true })).toBe(20)
  copy.close()
})
