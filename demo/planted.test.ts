import { workingsOf } from '#core/trial'
import type { TablePlan } from '#contract'
import { tableLoader } from '../server/kernel/course/load-table'
import { openDatabase } from '../server/kernel/db/open'
import { Outcome, type CourseState } from '../web/course/state'
import { compareSections } from '../web/parts/compared'
import { compareMarkers } from '../web/stops/compare/markers/figures'
import { buildDemo } from './build'
import { THIS_YEAR } from './story'

let state: CourseState
beforeAll(() => {
  const db = openDatabase(':memory:')
  buildDemo(db)
  const table = tableLoader(db).load(THIS_YEAR.id)
  db.close()
  const workings = workingsOf(table)
  const outcome = Outcome.of(workings)
  state = { table: table as unknown as TablePlan, workings, tried: workings, changes: [], adopted: outcome, current: outcome }
}, 60_000)

const id = (item: string) => `${THIS_YEAR.id}-${item}`
const markers = () => compareMarkers(state, id('map'))
const says = (item: string, section: string) => {
  return compareSections(state, id(item)).sections.find((x) => x.name === section)!.says!.words
}

test('the severe and the generous marker lean, and nobody else of those who can be compared', () => {
  const { markers: all, tolerance } = markers()
  const leaning = all.filter((m) => m.lean !== null && Math.abs(m.lean) > tolerance)
  expect(leaning.map((m) => [m.id, Math.sign(m.lean!)])).toEqual([
    ['marker-2', 1],
    ['marker-5', -1],
  ])
  for (const m of leaning) expect(Math.abs(m.lean!)).toBeGreaterThan(4)
})

test('the erratic marker is told from the others, and does not lean', () => {
  const erratic = markers().markers.filter((m) => m.fit.erratic)
  expect(erratic.map((m) => m.id)).toEqual(['marker-10'])
  expect(Math.abs(erratic[0]!.lean!)).toBeLessThan(3)
})

test('the pair apart is a group of its own, and one reading joins it', () => {
  const { groups, joins } = markers()
  expect(groups.map((g) => g.length)).toEqual([9, 2])
  expect(groups[1]).toEqual(['marker-8', 'marker-9'])
  expect(joins).toHaveLength(1)
  expect(groups[1]).toContain(joins[0]!.markerId)
})

test('the strong section is strong elsewhere, and the one with an easier paper is high there alone', () => {
  expect(says('map', 'Sextant')).toBe('higher, and its students do better elsewhere: strong students')
  expect(says('paper-1', 'Dioptra')).toBe('marked higher than its students’ other work tells: look at the marking and the paper')
  expect(says('levelling', 'Dioptra')).toMatch(/^looks level/)
})
