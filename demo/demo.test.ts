import { spreadOf, withinTolerance } from '#core/agree'
import { nearBoundary } from '#core/bounds'
import { compareGroups, describe as describeMarks } from '#core/compare'
import { gradeCourse } from '#core/grades'
import { openItems, planFacts, readingsOf, standingMarks, standingOf, standingRows, toCourse, workingsOf } from '#core/trial'
import { tableLoader } from '../server/kernel/course/load-table'
import { openDatabase, type Db } from '../server/kernel/db/open'
import { buildDemo, DEMO_SIZE } from './build'
import { LAST_YEAR, SECOND_COURSE, THIS_YEAR } from './story'

let db: Db
const load = (id: string) => tableLoader(db).load(id)
beforeAll(() => {
  db = openDatabase(':memory:')
  buildDemo(db)
}, 60_000)
afterAll(() => db.close())

const id = (item: string) => `${THIS_YEAR.id}-${item}`

test('the department is as large as it should be', () => {
  const t = load(THIS_YEAR.id)
  expect([t.sections.length, t.students.length, t.markers.length]).toEqual([8, 236, 11])
  expect(t.components.map((c) => c.weight)).toEqual([20, 25, 25, 10, 15, 5, 2])
  expect([load(SECOND_COURSE.id).sections.length, load(SECOND_COURSE.id).students.length]).toEqual([3, 84])
  expect(load(LAST_YEAR.id).head.confirmedIssue).toBe(1)
})

test('one marker is severe, one generous, one erratic, and a pair stands apart', () => {
  const w = workingsOf(load(THIS_YEAR.id))
  const pairs = new Map<string, { markerId: string; mark: number }[]>()
  for (const s of standingOf(w, standingMarks(w), id('map'))) {
    const own = readingsOf(w, s.cell)
    if (own.length > 0) pairs.set(s.scriptId, own)
  }
  const tolerant = [...pairs.values()].filter((p) => withinTolerance(spreadOf(p)!, 9))
  const differences = (marker: string) =>
    tolerant.flatMap((p) => p.filter((r) => r.markerId === marker).map((r) => r.mark - p.find((o) => o.markerId !== marker)!.mark))
  const mean = (marker: string) => describeMarks(differences(marker)).mean!
  expect(mean('marker-5')).toBeLessThan(-3)
  expect(mean('marker-2')).toBeGreaterThan(2)
  expect(describeMarks(differences('marker-10')).sd!).toBeGreaterThan(describeMarks(differences('marker-4')).sd!)
  const partners = (marker: string) =>
    new Set([...pairs.values()].filter((p) => p.some((r) => r.markerId === marker)).flatMap((p) => p.map((r) => r.markerId)))
  expect(partners('marker-8')).toEqual(new Set(['marker-8', 'marker-9']))
})

test('nine scripts lie over tolerance, and no more', () => {
  const t = load(THIS_YEAR.id)
  const items = openItems(workingsOf(t), planFacts(t))
  expect(items.find((i) => i.kind === 'spread')?.count).toBe(9)
  expect(items.find((i) => i.kind === 'unmarked')?.count).toBe(29)
})

test('one section is stronger everywhere, one only in the paper; one practical was unfair', () => {
  const t = load(THIS_YEAR.id)
  const standing = standingRows(workingsOf(t))
  const sectionOf = new Map(t.students.map((s) => [s.id, s.sectionId]))
  const difference = (assessment: string, section: string) =>
    compareGroups(
      t.sections.map((s) => ({
        id: s.name,
        values: standing.flatMap((m) => (m.assessmentId === id(assessment) && sectionOf.get(m.studentId) === s.id ? (m.mark ?? []) : [])),
      })),
    ).groups.find((g) => g.id === section)!.difference! / t.assessments.find((a) => a.id === id(assessment))!.outOf
  for (const a of ['pacing', 'levelling', 'detail', 'field-book-1']) expect(difference(a, 'Sextant')).toBeGreaterThan(0.03)
  expect(difference('paper-1', 'Dioptra')).toBeGreaterThan(0.08)
  for (const a of ['pacing', 'levelling', 'detail']) expect(Math.abs(difference(a, 'Dioptra'))).toBeLessThan(0.05)
  const share = (a: string) =>
    describeMarks(standing.flatMap((m) => (m.assessmentId === id(a) ? (m.mark ?? []) : []))).mean! /
    t.assessments.find((x) => x.id === id(a))!.outOf
  expect(share('traverse')).toBeLessThan(share('detail') - 0.1)
})

test('two students stand exactly on a boundary, a handful within half a percent', () => {
  const t = load(THIS_YEAR.id)
  const result = gradeCourse(toCourse(workingsOf(t)))
  expect(result.students.filter((s) => s.final === 70 || s.final === 60)).toHaveLength(2)
  expect(nearBoundary(result, 0.5).length).toBeGreaterThanOrEqual(5)
})

test('late, missing, absent, exempt and one held; a Sunday and a day after term; a weight never typed; shared names', () => {
  const t = load(THIS_YEAR.id)
  const statuses = standingRows(workingsOf(t)).map((s) => s.status)
  for (const s of ['late', 'missing', 'absent', 'exempt'] as const) expect(statuses.filter((x) => x === s).length).toBeGreaterThan(1)
  expect(statuses.filter((s) => s === 'held')).toHaveLength(1)
  const due = t.placements.map((p) => p.due!)
  expect(due.filter((d) => new Date(`${d}T12:00:00Z`).getUTCDay() === 0)).toHaveLength(1)
  expect(due.filter((d) => d > t.head.lastDay)).toHaveLength(1)
  expect(load(SECOND_COURSE.id).components.filter((c) => c.weight === null)).toHaveLength(1)
  const names = t.students.map((s) => s.name)
  expect(names.length - new Set(names).size).toBeGreaterThanOrEqual(2)
})

test('the same seed makes the same department; a larger one keeps the rules', () => {
  const again = openDatabase(':memory:')
  buildDemo(again, DEMO_SIZE)
  const marks = (d: Db) => d.prepare('SELECT id, status, days_late, entered FROM script ORDER BY id').all()
  expect(marks(again)).toEqual(marks(db))
  again.close()
  const large = openDatabase(':memory:')
  buildDemo(large, { students: 600, sections: 20, markers: 25, seed: 1 })
  const t = tableLoader(large).load(THIS_YEAR.id)
  expect([t.sections.length, t.students.length, t.markers.length]).toEqual([20, 600, 25])
  expect(openItems(workingsOf(t), planFacts(t)).find((i) => i.kind === 'spread')?.count).toBe(9)
  large.close()
}, 60_000)
