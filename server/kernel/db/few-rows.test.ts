import type { Database } from 'better-sqlite3'
import { createApp } from '../../app'
import { openDatabase } from './open'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

/** Kept of few scripts of a course, and read while others wait. */
const FEW = ['mark_question', 'between_two']
/** Steps that look through all scripts of an assessment, or through all that was ever read or written. */
const THROUGH_ALL = /script_by_assessment|^SCAN (s|x|script|r|reading|script_state)\b/

const folder = mkdtempSync(join(tmpdir(), 'level-table-'))
const db = openDatabase(join(folder, 'level-table.db'))
const plain = db.prepare.bind(db) as Database['prepare']
const prepared: string[] = []
jest.spyOn(db, 'prepare').mockImplementation(((sql: string) => {
  prepared.push(sql)
  return plain(sql)
}) as typeof db.prepare)
const app = createApp(db)

afterAll(async () => {
  await (app.locals.stop as () => Promise<void>)()
  db.close()
  rmSync(folder, { recursive: true })
})

/** The steps by which a statement is carried out; its values do not matter for that. */
function stepsOf(sql: string): string[] {
  const names = [...sql.matchAll(/@(\w+)/g)].map(([, name]) => name!)
  const values = names.length > 0 ? [Object.fromEntries(names.map((name) => [name, null]))] : [...sql.matchAll(/\?/g)].map(() => null)
  return (plain(`EXPLAIN QUERY PLAN ${sql}`).all(...values) as { detail: string }[]).map((step) => step.detail)
}

test.each(FEW)('%s is read without looking through the scripts of the course, which may be a million', (table) => {
  const reads = prepared.filter((sql) => new RegExp(`^SELECT[^;]* FROM ${table}\\b`, 's').test(sql.trim()))
  expect(reads.length).toBeGreaterThan(0)
  for (const sql of reads) expect(stepsOf(sql).filter((step) => THROUGH_ALL.test(step))).toEqual([])
})

test('somebody is looked up by name, sign-in or address without looking at everybody, and the audit list part by part', () => {
  const lookUps = prepared.filter((sql) => /FROM person p?\b.*(sign_in = |email = )/s.test(sql) && /^SELECT/.test(sql.trim()))
  const audit = prepared.filter((sql) => /FROM audit\b/.test(sql) && /^SELECT/.test(sql.trim()))
  expect([lookUps.length > 1, audit.length > 0]).toEqual([true, true])
  for (const sql of [...lookUps, ...audit]) expect(stepsOf(sql).filter((step) => /^SCAN (p|person|a|audit)\b/.test(step))).toEqual([])
})
