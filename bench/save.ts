import { copyFileSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { recordedCells, unpackSheet, type Cell, type SheetInColumns } from '#contract'
import { buildDemo } from '../demo/build'
import { openDatabase } from '../server/kernel/db/open'
import { figures } from './figures'
import { leanClient } from './lean-client'
import { withServer } from './serve'
import { writing } from '../server/kernel/db/transactions'

const COURSE = 'cfs214-2026'
const MARKERS = 50
const EACH = 20
const ROUNDS = 9

/** A save of one mark with 50 markers saving at once, beside the same rows written bare with the same durability. */
export async function benchSave(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'level-table-bench-'))
  const made = openDatabase(join(folder, 'level-table.db'))
  buildDemo(made)
  made.pragma('wal_checkpoint(TRUNCATE)')
  made.close()
  copyFileSync(join(folder, 'level-table.db'), join(folder, 'bare.db'))
  const bare = savesBare(join(folder, 'bare.db'))
  try {
    console.log(`\nSaving: ${MARKERS} at once, ${EACH} marks each, ${ROUNDS} rounds in turns with bare`)
    const rounds = await saveByHttp(folder, bare.round)
    const line = (what: string, of: (round: Round) => number, beside: (round: Round) => number) => {
      const ratio = figures(rounds.map((r) => of(r) / beside(r))).p50
      console.log(`  ${what.padEnd(34)} ${figures(rounds.map(of)).p50.toFixed(2).padStart(8)} ms  ${ratio.toFixed(1).padStart(6)} × bare`)
    }
    const each = (r: Round) => r.bare.each
    line('bare, each', each, each)
    line(
      'bare, p99',
      (r) => r.bare.p99,
      (r) => r.bare.p99,
    )
    line(
      'one marker alone, p50',
      (r) => r.alone.p50,
      (r) => r.bare.p50,
    )
    line(
      `${MARKERS} at once, p50`,
      (r) => r.own.p50,
      (r) => r.bare.p50,
    )
    line(
      `${MARKERS} at once, p99`,
      (r) => r.own.p99,
      (r) => r.bare.p99,
    )
    line(`${MARKERS} at once, each`, (r) => r.own.each, each)
    line('of that the way there and back', (r) => r.way.each, each)
  } finally {
    bare.end()
    rmSync(folder, { recursive: true, force: true })
  }
}

interface Figures {
  p50: number
  p99: number
  /** All of them took so long, each its part. */
  each: number
}
interface Round {
  bare: Figures
  own: Figures
  way: Figures
  alone: Figures
}

/** Takes times, one after another or some at once. */
async function timed(work: () => number[] | Promise<number[]>): Promise<Figures> {
  const from = performance.now()
  const times = await work()
  const took = performance.now() - from
  return { ...figures(times), each: took / times.length }
}

function savesBare(file: string) {
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
  const round = () =>
    timed(() =>
      Array.from({ length: MARKERS * EACH }, (_, i) => {
        const s = scripts[i % scripts.length]!
        const from = performance.now()
        writing(db, () => {
          update.run(i % 20, s.id)
          keep.run(s.id, ++s.version, 'in', i % 20, 'lead', new Date().toISOString())
          raise.run(COURSE)
        })
        return performance.now() - from
      }),
    )
  return { round, end: () => db.close() }
}

async function saveByHttp(folder: string, bare: () => Promise<Figures>): Promise<Round[]> {
  return withServer(folder, async ({ address, signIn }) => {
    const { send, end } = leanClient(address, await signIn('ines.valdry'), MARKERS)
    const sheet = unpackSheet(JSON.parse(await send('GET', `/api/courses/${COURSE}/sheet`)) as SheetInColumns)
    const cells = [...recordedCells(sheet)].filter((c) => c.assessmentId === `${COURSE}-pacing` && c.status === 'in')
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
    // What the way there and back costs alone: nothing is looked up and nothing is written.
    const ask = async (): Promise<number> => {
      const from = performance.now()
      await send('GET', '/api/health')
      return performance.now() - from
    }
    const inTurn = async (turns: number, work: (turn: number) => Promise<number>): Promise<number[]> => {
      const own: number[] = []
      for (let i = 0; i < turns; i++) own.push(await work(i))
      return own
    }
    const fifty = async (work: (marker: number, turn: number) => Promise<number>): Promise<number[]> =>
      (await Promise.all(Array.from({ length: MARKERS }, (_, m) => inTurn(EACH, (i) => work(m, i))))).flat()
    // Connections are there and the server has been at it, as in the middle of an afternoon.
    for (let i = 0; i < 2; i++) await fifty((m, turn) => save(cells[m]!, (turn + m + 1) % 20))
    const rounds: Round[] = []
    for (let i = 0; i < ROUNDS; i++)
      rounds.push({
        bare: await bare(),
        own: await timed(() => fifty((m, turn) => save(cells[m]!, (turn + m + i) % 20))),
        way: await timed(() => fifty(ask)),
        alone: await timed(() => inTurn(EACH, (turn) => save(cells[0]!, turn))),
      })
    end()
    return rounds
  })
}
