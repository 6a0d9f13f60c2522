import { spawn, type ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import {
  appendFileSync,
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  watch,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Database from 'better-sqlite3'
import { buildDemo } from '../../../demo/build'
import { openDatabase } from '../../kernel/db/open'
import { backUp, checkBackUp, keepLatest, listBackUps } from './back-up'
import { holdData } from './hold-data'
import { restore } from './restore'
import { keeper } from './schedule'

let folder: string
let data: string
let file: string
let backups: string
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'level-table-keeping-'))
  const db = openDatabase(join(folder, 'template', 'level-table.db'))
  buildDemo(db, { students: 60, sections: 8, markers: 11, seed: 3 })
  db.close()
}, 60_000)
afterAll(() => rmSync(folder, { recursive: true, force: true }))
beforeEach(() => {
  const own = mkdtempSync(join(folder, 'case-'))
  data = join(own, 'data')
  cpSync(join(folder, 'template'), data, { recursive: true })
  file = join(data, 'level-table.db')
  backups = join(own, 'backups')
})

const titleIn = (of: string) => {
  const db = new Database(of, { readonly: true })
  const title = db.prepare("SELECT title FROM course WHERE id = 'cfs214-2026'").pluck().get()
  db.close()
  return title
}
const rename = (title: string) => {
  const db = openDatabase(file)
  db.prepare("UPDATE course SET title = ? WHERE id = 'cfs214-2026'").run(title)
  db.close()
}

test('a backup is whole while others write, says what is in it, and is for its owner alone', async () => {
  const db = openDatabase(file)
  const write = db.prepare("UPDATE course SET version = version + 1 WHERE id = 'cfs214-2026'")
  let writing = true
  const writer = (async () => {
    while (writing) {
      write.run()
      await new Promise((next) => setImmediate(next))
    }
  })()
  for (const name of ['installation', 'cfs214-2026']) {
    mkdirSync(join(data, 'post', name), { recursive: true })
    appendFileSync(join(data, 'post', name, 'a.eml'), 'letter')
  }
  const made = await backUp({ file, into: backups })
  writing = false
  await writer
  db.close()
  expect(made.rows.student).toBeGreaterThan(100)
  expect(await checkBackUp(join(backups, made.name))).toMatchObject({ hash: made.hash, version: made.version })
  expect(readdirSync(join(backups, made.name)).sort()).toEqual(['level-table.db', 'manifest.json', 'post'])
  // A letter with a way in goes nowhere.
  expect(readdirSync(join(backups, made.name, 'post'))).toEqual(['cfs214-2026'])
  expect(statSync(join(backups, made.name)).mode & 0o077).toBe(0)
})

test('of many the latest are kept, and what a crash left half done goes', async () => {
  const names = []
  for (let i = 0; i < 3; i++) names.unshift((await backUp({ file, into: backups })).name)
  mkdirSync(join(backups, 'level-table-2026.partial'))
  await keepLatest(backups, 2)
  expect(readdirSync(backups).sort()).toEqual(names.slice(0, 2).sort())
  expect((await listBackUps(backups)).map((b) => b.name)).toEqual(names.slice(0, 2))
})

test('one from a day that is still to come, as after the clock was set back, is no reason to make none today', async () => {
  const { name } = await backUp({ file, into: backups })
  const { state } = keeper(file, { folder: backups, hours: 1, keep: 5 }, null as never)
  expect((await state()).old).toBe(false)
  const manifest = join(backups, name, 'manifest.json')
  writeFileSync(manifest, readFileSync(manifest, 'utf8').replace(/"at": "\d{4}/, '"at": "2999'))
  expect((await state()).old).toBe(true)
})

test('restored, everything is as it was; what was there is kept aside, and can be restored by hand', async () => {
  rename('As backed up')
  const made = await backUp({ file, into: backups })
  rename('Afterwards')
  const { aside, manifest } = await restore(join(backups, made.name), data)
  expect([titleIn(file), titleIn(join(aside!, 'level-table.db')), manifest.hash]).toEqual(['As backed up', 'Afterwards', made.hash])
  const db = openDatabase(file)
  expect(db.pragma('integrity_check', { simple: true })).toBe('ok')
  db.close()
})

test('into an empty folder it is restored as well', async () => {
  const made = await backUp({ file, into: backups })
  const fresh = join(folder, 'fresh')
  expect((await restore(join(backups, made.name), fresh)).aside).toBeNull()
  expect(titleIn(join(fresh, 'level-table.db'))).toBe('Field Mapping')
})

test('a restore is refused while a server holds the data, from what is no backup, and from one that was changed; nothing is touched', async () => {
  rename('Untouched')
  const made = await backUp({ file, into: backups })
  const letGo = holdData(data)
  await expect(restore(join(backups, made.name), data)).rejects.toThrow(/A server is running on/)
  letGo()
  await expect(restore(data, data)).rejects.toThrow(/holds no backup/)
  appendFileSync(join(backups, made.name, 'level-table.db'), 'x')
  await expect(restore(join(backups, made.name), data)).rejects.toThrow(/its hash differs/)
  expect(titleIn(file)).toBe('Untouched')
  expect(readdirSync(data).filter((n) => n.startsWith('before-restore') || n.endsWith('.partial'))).toEqual([])
})

test('a damaged database is no backup', async () => {
  const db = new Database(file)
  db.pragma('foreign_keys = OFF')
  db.exec("INSERT INTO enrolment (student_id, section_id, from_day) VALUES ('nobody', 'nowhere', '2026-09-07')")
  db.close()
  await expect(backUp({ file, into: backups })).rejects.toThrow('2 references in the database lead to nothing.')
  expect(await listBackUps(backups)).toEqual([])
})

/** One of the server's own commands, killed as a power cut would once something has come about in a folder. */
async function killedOnce(command: string, args: string[], there: string, seen: (name: string) => boolean): Promise<void> {
  mkdirSync(there, { recursive: true })
  const child: ChildProcess = spawn(process.execPath, ['--import', 'tsx', `server/commands/${command}.ts`, ...args], {
    env: { ...process.env, LEVEL_TABLE_DATA: data },
    stdio: 'ignore',
  })
  const gone = once(child, 'exit')
  const watcher = watch(there, (_, name) => name && seen(name) && child.kill('SIGKILL'))
  await gone
  watcher.close()
}

test('killed in the middle of a backup nothing is lost, and the half of one is never taken for one', async () => {
  await killedOnce('backup', [backups], backups, (name) => name.endsWith('.partial'))
  for (const b of await listBackUps(backups)) await checkBackUp(join(backups, b.name))
  expect(titleIn(file)).toBe('Field Mapping')
  const made = await backUp({ file, into: backups })
  expect((await checkBackUp(join(backups, made.name))).rows.course).toBe(made.rows.course)
}, 60_000)

test('killed in the middle of a restore the data is the one before or the one restored, whole, and a second try goes through', async () => {
  rename('As backed up')
  const made = await backUp({ file, into: backups })
  rename('Afterwards')
  await killedOnce('restore', [join(backups, made.name)], data, (name) => name.endsWith('.partial') || name.startsWith('before-restore'))
  expect(existsSync(file)).toBe(true)
  expect(['As backed up', 'Afterwards']).toContain(titleIn(file))
  await restore(join(backups, made.name), data)
  expect(titleIn(file)).toBe('As backed up')
}, 60_000)

test('before a database is brought up to date it is copied', () => {
  const old = join(folder, 'old', 'level-table.db')
  openDatabase(old, 15).close()
  openDatabase(old).close()
  const [copy] = readdirSync(join(folder, 'old', 'backups'))
  expect(copy).toMatch(/^before-migration-15-.*\.db$/)
  const db = new Database(join(folder, 'old', 'backups', copy!), { readonly: true })
  expect(db.pragma('user_version', { simple: true })).toBe(15)
  db.close()
})

test('a backup that the server stops in is no error, and leaves nothing behind', async () => {
  const said: string[] = []
  const log = { info: (_: unknown, words?: string) => said.push(words ?? String(_)), error: () => said.push('error') }
  let end = () => undefined as void
  const pool = {
    backUp: () =>
      new Promise((_, reject) => {
        mkdirSync(join(backups, `level-table-${new Date().toISOString().replace(/[:.]/g, '-')}.partial`), { recursive: true })
        end = () => reject(new Error('the thread was ended'))
      }),
  }
  mkdirSync(join(backups, 'level-table-2026-01-01T00-00-00-000Z.partial'), { recursive: true })
  const kept = keeper(file, { folder: backups, hours: 1, keep: 5 }, pool as never, log as never)
  const made = kept.backUpNow().catch((e: Error) => e.message)
  await kept.stop(() => Promise.resolve(end()))
  expect([await made, said, readdirSync(backups)]).toEqual([
    'the thread was ended',
    ['the backup was given up, as the server stops'],
    // What an earlier crash left is not this one's.
    ['level-table-2026-01-01T00-00-00-000Z.partial'],
  ])
})
