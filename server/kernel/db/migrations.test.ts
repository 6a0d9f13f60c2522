import { mkdtempSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { openDatabase } from './open'

const LATEST = readdirSync('server/kernel/db/migrations').length
let folder: string
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'level-table-migrations-'))))
afterEach(() => rmSync(folder, { recursive: true, force: true }))

/** A database as the version before left it, with a row of everything that the next one touches. */
function atVersionOne(file: string): void {
  const db = openDatabase(file, 1)
  db.exec(`
    INSERT INTO person (id, name, sign_in, passphrase_hash) VALUES ('p', 'Ines', 'ines', 'x');
    INSERT INTO course (id, code, title, term, first_day, last_day, policy, boundaries) VALUES ('c', 'CFS', 'Field', 'autumn', '2026-09-07', '2026-12-18', '{}', '[]');
    INSERT INTO section (id, course_id, code, name, position) VALUES ('s', 'c', 'A', 'Alidade', 0);
    INSERT INTO student (id, course_id, name, candidate) VALUES ('x', 'c', 'Aylin', '1');
    INSERT INTO enrolment (student_id, section_id, from_day) VALUES ('x', 's', '2026-09-07');
    INSERT INTO component (id, course_id, title, combine, position) VALUES ('k', 'c', 'Work', 'byWorth', 0);
    INSERT INTO assessment (id, course_id, component_id, title, marking, out_of, position) VALUES ('a', 'c', 'k', 'Map', 'direct', 10, 0);
    INSERT INTO script (id, student_id, assessment_id, entered) VALUES ('a:x', 'x', 'a', 7);
    INSERT INTO decision (id, course_id, seq, kind, summary, changes, reason, made_by, made_at) VALUES ('d', 'c', 1, 'reconcile', 'settled', '[]', '', 'p', '2026-11-01T00:00:00.000Z');
    INSERT INTO agreed_mark (script_id, decision_id, mark, rule, in_force) VALUES ('a:x', 'd', 7, '{}', 1);`)
  db.close()
}

test('a database of the version before is brought up to date with all its rows, references and refusals', () => {
  const file = join(folder, 'level-table.db')
  atVersionOne(file)
  const db = openDatabase(file)
  expect(db.pragma('user_version', { simple: true })).toBe(LATEST)
  expect(db.pragma('foreign_keys', { simple: true })).toBe(1)
  expect(db.prepare('SELECT mark, in_force FROM agreed_mark').get()).toEqual({ mark: 7, in_force: 1 })
  expect(db.prepare('SELECT kind, summary FROM decision').get()).toEqual({ kind: 'reconcile', summary: 'settled' })
  expect(db.prepare('SELECT notes, worth_follows, away FROM assessment').get()).toEqual({ notes: '', worth_follows: 0, away: 0 })
  expect(() => db.prepare('DELETE FROM decision').run()).toThrow('withdrawn, never deleted')
  expect(() => db.prepare("UPDATE decision SET reason = 'other'").run()).toThrow('never rewritten')
  expect(() =>
    db.prepare("INSERT INTO agreed_mark (script_id, decision_id, mark, rule, in_force) VALUES ('a:x', 'none', 1, '{}', 0)").run(),
  ).toThrow(/FOREIGN KEY/)
  const plan = db.prepare(
    "INSERT INTO decision SELECT 'd2', course_id, 2, 'plan', summary, changes, effect, reason, made_by, made_at, NULL, NULL, NULL FROM decision",
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
