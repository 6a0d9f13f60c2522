import type { CellWrite } from '#contract'
import { page } from '../../api/client'
import { backupOf, type Backup } from './desk/backup'
import { keptCells as cellsOf } from './sheet/cell-queue'

page.keepKey = btoa('k'.repeat(32))
const kept = new Map<string, string>()
/** Characters that the browser has room for in one entry. */
let room = Infinity
beforeAll(() => {
  globalThis.localStorage = {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => {
      if (value.length > room) throw new Error('QuotaExceededError')
      kept.set(key, value)
    },
    removeItem: (key: string) => void kept.delete(key),
  } as Storage
})
beforeEach(() => {
  kept.clear()
  room = Infinity
})

const keptCells = (courseId: string, personId: string) => cellsOf(courseId, personId).read()
const keepCells = (courseId: string, personId: string, cells: CellWrite[]) => cellsOf(courseId, personId).keep(cells)
const cell = { studentId: 's', assessmentId: 'a', version: 2, mark: 7.5, status: 'in' as const, daysLate: 0 }
const SCRIPT = { personId: 'ines', courseId: 'c', assessmentId: 'a', studentId: 's' }
const reading: Backup = {
  version: 3,
  as: 'handed in',
  gapMeant: false,
  afterSeeing: false,
  unanswered: [],
  body: { judged: { picks: { a: 4 }, judgement: null, mark: null }, comment: 'Go on.', criterionComments: { a: 'Here.' }, notes: '' },
}

test('cells that have not reached the server are there after a reload, of their course alone, until they have', () => {
  expect(keptCells('c', 'ines')).toEqual([])
  keepCells('c', 'ines', [cell])
  expect(keptCells('c', 'ines')).toEqual([cell])
  expect(keptCells('d', 'ines')).toEqual([])
  keepCells('c', 'ines', [])
  expect([keptCells('c', 'ines'), kept.size]).toEqual([[], 0])
})

test('of more than there is room for the latest are kept, and it is said that not all are', () => {
  const many = Array.from({ length: 100 }, (_, i) => ({ ...cell, studentId: `s${i}` }))
  expect(keepCells('c', 'ines', many)).toBe(true)
  // Sealed and in base64 it takes a third more.
  room = (JSON.stringify(many).length / 3) * 1.4
  expect(keepCells('c', 'ines', many)).toBe(false)
  expect(keptCells('c', 'ines')).toEqual(many.slice(-25))
  room = 0
  expect([keepCells('c', 'ines', many), keptCells('c', 'ines'), kept.size]).toEqual([false, [], 0])
  expect(keepCells('c', 'ines', [])).toBe(true)
})

test('with no room at all a reading is not kept, and nothing breaks', () => {
  room = 0
  backupOf(SCRIPT).keep(reading)
  expect(backupOf(SCRIPT).read()).toBeNull()
})

test('a reading that has not reached the server is there after a reload, of its script alone, until it has', () => {
  const backup = backupOf(SCRIPT)
  expect(backup.read()).toBeNull()
  backup.keep(reading)
  expect(backupOf(SCRIPT).read()).toEqual(reading)
  expect(backupOf({ ...SCRIPT, studentId: 't' }).read()).toBeNull()
  backup.drop()
  expect(backup.read()).toBeNull()
})

test.each(['{', '[]', '{"version":"x"}', '[{"mark":"seven"}]'])('what somebody else left there (%s) is not taken for ours', (text) => {
  kept.set('level-table-cells c ines', text)
  kept.set('level-table-reading ines c a s', text)
  expect(keptCells('c', 'ines')).toEqual([])
  expect(backupOf(SCRIPT).read()).toBeNull()
})

test('whoever signs in next in the same browser finds nothing of it', () => {
  keepCells('c', 'ines', [cell])
  backupOf(SCRIPT).keep(reading)
  expect(keptCells('c', 'rune')).toEqual([])
  expect(backupOf({ ...SCRIPT, personId: 'rune' }).read()).toBeNull()
})

test('nothing of it can be read without the key that signing in gives', () => {
  const backup = backupOf(SCRIPT)
  backup.keep(reading)
  keepCells('c', 'ines', [cell])
  for (const [name, value] of kept) {
    expect(value).not.toContain('Go on')
    expect(atob(value)).not.toMatch(/Go on|mark/)
    expect(name).toMatch(/^level-table-(reading ines c a s|cells c ines)$/)
  }
  const { keepKey } = page
  page.keepKey = null
  expect([backup.read(), keptCells('c', 'ines')]).toEqual([null, []])
  page.keepKey = btoa('x'.repeat(32))
  expect([backup.read(), keptCells('c', 'ines')]).toEqual([null, []])
  page.keepKey = keepKey
  expect(backup.read()).toEqual(reading)
})
