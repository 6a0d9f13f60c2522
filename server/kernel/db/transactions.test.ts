import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { openDatabase, type Db } from './open'
import { writing } from './transactions'

let folder: string
let db: Db
let other: Database.Database
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), 'level-table-transactions-'))
  db = openDatabase(join(folder, 'level-table.db'))
  other = new Database(db.name)
  other.pragma('busy_timeout = 0')
})
afterEach(() => {
  other.close()
  db.close()
  rmSync(folder, { recursive: true, force: true })
})

const put = (to: Database.Database, key: string) => to.prepare("INSERT INTO setting VALUES (?, '')").run(key)
const count = () => db.prepare<[], { n: number }>('SELECT count(*) AS n FROM setting').get()!.n

test('a transaction that reads before it writes is not refused because somebody else wrote in between', () => {
  writing(db, () => {
    const before = count()
    // The lock is held from the start: the other waits, instead of making the write below impossible.
    expect(() => put(other, 'other')).toThrow(/locked/)
    put(db, 'own')
    expect(count()).toBe(before + 1)
  })
  expect(put(other, 'other').changes).toBe(1)
})

test('what is refused inside another transaction takes only itself back', () => {
  writing(db, () => {
    put(db, 'outer')
    expect(() =>
      writing(db, () => {
        put(db, 'inner')
        throw new Error('refused')
      }),
    ).toThrow('refused')
  })
  expect(db.prepare("SELECT key FROM setting WHERE key IN ('outer', 'inner')").all()).toEqual([{ key: 'outer' }])
})
