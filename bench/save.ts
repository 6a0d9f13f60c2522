import { copyFileSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { unpackSheet, type Cell, type SheetInColumns } from '#contract'
import { buildDemo } from '../demo/build'
import { openDatabase } from '../server/kernel/db/open'
import { figures } from './figures'
import { leanClient } from './lean-client'
import { withServer } from './serve'

const COURSE = 'cfs214-2026'
const MARKERS = 50
const EACH = 20

/** A save of one mark with 50 markers saving at once, beside the same rows written bare with the same durability. */
export async function benchSave(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'level-table-bench-'))
  const made = openDatabase(join(folder, 'level-table.db'))
  buildDemo(made)
  made.pragma('wal_checkpoint(TRUNCATE)')
  made.close()
  copyFileSync(join(folder, 'level-table.db'), join(folder, 'bare.db'))
  try {
    console.log(`\nSaving: ${MARKERS} at once, ${EACH} marks each`)
    const bare = figures(saveBare(join(folder, 'bare.db')))
    const { own, way, alone } = await saveByHttp(folder)
    const line = (what: string, ms: number, beside: number) =>
      console.log(`  ${what.padEnd(34)} ${ms.toFixed(2).padStart(8)} ms  ${(ms / beside).toFixed(1).padStart(6)} × bare`)
    line('bare, p50', bare.p50, bare.p50)
    line('bare, p99', bare.p99, bare.p99)
    line('one marker alone, p50', alone.p50, bare.p50)
    line('one marker alone, p99', alone.p99, bare.p99)
    line(`${MARKERS} at once, p50`, own.p50, bare.p50)
    line(`${MARKERS} at once, p99`, own.p99, bare.p99)
    line(`${MARKERS} at once, per save`, own.each, bare.p50)
    line('of that the way there and back', way.each, bare.p50)
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

function saveBare(file: string): number[] {
  const db = openDatabase(file)
  const scripts = db.prepare('SELECT id, version FROM script WHERE assessment_id = ?').all(`${COURSE}-pacing`) as {
    id: string
    version: number
  }[]
  const update = db.prepare('UPDATE script SET entered = ?, version = version + 1 WHERE id = ?')
  const keep = db.prepare(
    'INSERT INTO script_state (script_id, version, status, days_late, entered, by_id, at) VALUES (?, ?, ?, 0, ?, ?, ?)',
  )
  const raise = db.prepare('UPDATE course SET version = version + 1 WHERE id = ?')
  const times: number[] = []
  for (let i = 0; i < MARKERS * EACH; i++) {
    const s = scripts[i % scripts.length]!
    const from = performance.now()
    db.transaction(() => {
      update.run(i % 20, s.id)
      keep.run(s.id, ++s.version, 'in', i % 20, 'lead', new Date().toISOString())
      raise.run(COURSE)
    })()
    times.push(performance.now() - from)
  }
  db.close()
  return times
}

async function saveByHttp(folder: string) {
  return withServer(folder, async ({ address, signIn }) => {
    const { send, end } = leanClient(address, await signIn('ines.valdry'), MARKERS)
    const sheet = unpackSheet(JSON.parse(await send('GET', `/api/courses/${COURSE}/sheet`)) as SheetInColumns)
    const cells = sheet.cells.filter((c) => c.assessmentId === `${COURSE}-pacing` && c.status === 'in')
    const save = async (cell: Cell, mark: number): Promise<number> => {
      const { studentId, assessmentId, version } = cell
      const from = performance.now()
      const answer = await send('PATCH', `/api/courses/${COURSE}/sheet`, {
        cells: [{ studentId, assessmentId, version, mark, status: 'in', daysLate: 0 }],
      })
      const { saved } = JSON.parse(answer) as { saved: Cell[] }
      const took = performance.now() - from
      cell.version = saved[0]!.version
      return took
    }
    const alone: number[] = []
    for (let i = 0; i < 200; i++) alone.push(await save(cells[0]!, i % 20))
    const fifty = async (work: (marker: number, turn: number) => Promise<number>) => {
      const from = performance.now()
      const times = await Promise.all(
        Array.from({ length: MARKERS }, async (_, m) => {
          const own: number[] = []
          for (let i = 0; i < EACH; i++) own.push(await work(m, i))
          return own
        }),
      )
      return { ...figures(times.flat()), each: (performance.now() - from) / (MARKERS * EACH) }
    }
    // Connections are there and the server has been at it, as in the middle of an afternoon.
    for (let i = 0; i < 2; i++) await fifty((m, turn) => save(cells[m]!, (turn + m + 1) % 20))
    const own = await fifty((m, i) => save(cells[m]!, (i + m) % 20))
    // What the way there and back costs alone: nothing is looked up and nothing is written.
    const way = await fifty(async () => {
      const from = performance.now()
      await send('GET', '/api/health')
      return performance.now() - from
    })
    end()
    return { own, way, alone: figures(alone) }
  })
}
