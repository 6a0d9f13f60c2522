import { spawn, type ChildProcess } from 'node:child_process'
import { once } from 'node:events'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createInterface } from 'node:readline'
import { buildDemo } from '../../../demo/build'
import { PASSPHRASE } from '../../../demo/department'
import { type CellWrite } from '#contract'
import { openDatabase } from './open'
import { sheetIn } from '../../testing/sheet-of'

const COURSE = 'cfs214-2026'
/** Kills; TORTURE_ROUNDS=50 is the long run. */
const ROUNDS = Number(process.env.TORTURE_ROUNDS ?? 4)
const CLIENTS = 8

interface Running {
  process: ChildProcess
  address: string
}

async function start(data: string): Promise<Running> {
  const child = spawn(process.execPath, ['node_modules/tsx/dist/cli.mjs', 'server/main.ts'], {
    env: { ...process.env, NODE_ENV: 'production', PORT: '0', HOST: '127.0.0.1', LEVEL_TABLE_DATA: data, LOG_LEVEL: 'info' },
    stdio: ['ignore', 'pipe', 'inherit'],
    detached: true,
  })
  const lines = createInterface({ input: child.stdout })
  const port = await new Promise<number>((found) =>
    lines.on('line', (line) => {
      const said = JSON.parse(line) as { msg?: string; port?: number }
      if (said.msg === 'listening') found(said.port!)
    }),
  )
  return { process: child, address: `http://127.0.0.1:${port}` }
}

/** The whole group at once, as a power cut would. */
async function kill({ process: child }: Running): Promise<void> {
  const gone = once(child, 'exit')
  process.kill(-child.pid!, 'SIGKILL')
  await gone
}

test(
  'a server killed in the middle of writes has every acknowledged one after restart, none twice, histories whole',
  async () => {
    const data = mkdtempSync(join(tmpdir(), 'level-table-kill-'))
    const file = join(data, 'level-table.db')
    const made = openDatabase(file)
    buildDemo(made, { students: 80, sections: 8, markers: 11, seed: 3 })
    made.close()

    const acknowledged = new Map<string, { version: number; mark: number }>()
    let writes = 0
    for (let round = 0; round < ROUNDS; round++) {
      const server = await start(data)
      const send = async (method: string, path: string, cookie: string, body?: unknown) =>
        fetch(server.address + path, {
          method,
          headers: { cookie, origin: server.address, 'content-type': 'application/json' },
          ...(body ? { body: JSON.stringify(body) } : {}),
        })
      const entered = await send('POST', '/api/session', '', { signIn: 'ines.valdry', passphrase: PASSPHRASE })
      const cookie = entered.headers.get('set-cookie')!.split(';')[0]!
      const sheet = sheetIn(await (await send('GET', `/api/courses/${COURSE}/sheet`, cookie)).json())
      const cells = sheet.cells.filter((c) => c.assessmentId === `${COURSE}-pacing`)
      for (const c of cells) {
        const known = acknowledged.get(c.studentId)
        if (known && c.version === known.version) expect(c.mark).toBe(known.mark)
        // A write whose answer never came may have landed: then exactly one more version stands.
        if (known) expect(c.version - known.version).toBeLessThanOrEqual(1)
      }
      const versions = new Map(cells.map((c) => [c.studentId, c.version]))
      let killed = false
      let now = 0
      const client = async (nth: number) => {
        for (let i = 0; !killed && i < 200; i++) {
          const studentId = cells[(nth + i * CLIENTS) % cells.length]!.studentId
          const write: CellWrite = {
            studentId,
            assessmentId: `${COURSE}-pacing`,
            version: versions.get(studentId)!,
            mark: (writes++ % 40) / 2,
            status: 'in',
            daysLate: 0,
          }
          const answer = await send('PATCH', `/api/courses/${COURSE}/sheet`, cookie, { cells: [write] }).then(
            async (r) => (r.ok ? ((await r.json()) as { saved: { version: number; mark: number }[] }) : null),
            () => null,
          )
          if (!answer) return
          const [saved] = answer.saved
          if (saved) {
            versions.set(studentId, saved.version)
            acknowledged.set(studentId, { version: saved.version, mark: saved.mark })
            // Another moment every time.
            if (++now > 10 + ((round * 17) % 50) && !killed) {
              killed = true
              await kill(server)
            }
          }
        }
      }
      await Promise.all(Array.from({ length: CLIENTS }, (_, nth) => client(nth)))
      if (!killed) await kill(server)
    }

    const db = openDatabase(file)
    expect(db.pragma('integrity_check', { simple: true })).toBe('ok')
    for (const [studentId, { version, mark }] of acknowledged) {
      const id = `${COURSE}-pacing:${studentId}`
      const states = db.prepare('SELECT version, entered FROM script_state WHERE script_id = ? ORDER BY version').all(id) as {
        version: number
        entered: number
      }[]
      expect(states.find((s) => s.version === version)).toEqual({ version, entered: mark })
      expect(states.map((s) => s.version)).toEqual(states.map((_, i) => states[0]!.version + i))
    }
    expect(acknowledged.size).toBeGreaterThan(20)
    db.close()
    rmSync(data, { recursive: true, force: true })
  },
  30_000 + ROUNDS * 22_500,
)

test('a database of a newer program is left alone', () => {
  const data = mkdtempSync(join(tmpdir(), 'level-table-newer-'))
  const file = join(data, 'level-table.db')
  const db = openDatabase(file)
  db.pragma('user_version = 9999')
  db.close()
  expect(() => openDatabase(file)).toThrow(/start the newer program/)
  rmSync(data, { recursive: true, force: true })
})

test('opening twice migrates once and keeps what is there', () => {
  const data = mkdtempSync(join(tmpdir(), 'level-table-twice-'))
  const file = join(data, 'level-table.db')
  const first = openDatabase(file)
  first.prepare("INSERT INTO setting (key, value) VALUES ('a', 'b')").run()
  first.close()
  const second = openDatabase(file)
  expect(second.prepare('SELECT value FROM setting').get()).toEqual({ value: 'b' })
  expect(second.pragma('foreign_key_check')).toEqual([])
  second.close()
  rmSync(data, { recursive: true, force: true })
})
