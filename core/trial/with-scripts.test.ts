import fc from 'fast-check'
import { STATUSES } from '../grades/course'
import { planFacts, withPlan, withScripts, workingsOf, type TableLike, type WrittenScript } from './course-table'
import { gradeAfter, gradeByLimits, gradeStanding, gradeWorkings } from './grade-workings'
import { openItems } from './open-items'
import { wholeResult } from '../testing/whole-result'
import type { Adjustment } from '../rescale/adjustments'
import { standingAfter, standingMarks, standingRows } from './standing-marks'

const STUDENTS = ['x', 'y', 'z'].map((id, i) => ({ id, sectionId: i < 2 ? 's' : 't' }))
const ASSESSMENTS = ['a', 'b']
const MARKERS = ['m', 'n']

function table(written: readonly WrittenScript[], more: Partial<TableLike> = {}): TableLike {
  const readings = written.flatMap((w, i) => w.readings.map((r) => [i, MARKERS.indexOf(r.markerId), r.mark] as const))
  return {
    policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'cap' },
    boundaries: [
      { grade: 'Pass', from: 50 },
      { grade: 'Fail', from: 0 },
    ],
    students: STUDENTS,
    markers: MARKERS.map((id) => ({ id })),
    components: [{ id: 'k', weight: 100, combine: 'byWorth', dropLowest: 0, bonus: false }],
    assessments: ASSESSMENTS.map((id, i) => ({
      id,
      componentId: 'k',
      outOf: 20,
      worth: 10,
      counts: true,
      bonus: false,
      droppable: true,
      readingsWanted: 1 + i,
      tolerance: 2,
    })),
    placements: ['s', 't'].flatMap((sectionId) => ASSESSMENTS.map((assessmentId) => ({ assessmentId, sectionId, due: null }))),
    stays: {},
    leftOut: {},
    scripts: {
      id: [],
      student: written.map((w) => STUDENTS.findIndex((s) => s.id === w.studentId)),
      assessment: written.map((w) => ASSESSMENTS.indexOf(w.assessmentId)),
      status: written.map((w) => STATUSES.indexOf(w.status)),
      daysLate: written.map((w) => w.daysLate),
      entered: written.map((w) => w.entered),
    },
    readings: { script: readings.map((r) => r[0]), marker: readings.map((r) => r[1]), mark: readings.map((r) => r[2]) },
    agreed: {},
    adjustments: [],
    conditions: [{ id: 'k1', assessmentId: 'a', least: 40, atMost: 'Fail' }],
    ...more,
  }
}

const mark = fc.integer({ min: 0, max: 20 })
const script = fc.record({
  studentId: fc.constantFrom('x', 'y', 'z'),
  assessmentId: fc.constantFrom(...ASSESSMENTS),
  status: fc.constantFrom(...STATUSES),
  daysLate: fc.nat({ max: 3 }),
  entered: fc.option(mark),
  readings: fc.uniqueArray(fc.record({ markerId: fc.constantFrom(...MARKERS), mark }), { selector: (r) => r.markerId, maxLength: 2 }),
})
const scripts = fc.uniqueArray(script, { selector: (s) => `${s.studentId} ${s.assessmentId}` })
const key = (s: WrittenScript) => `${s.studentId} ${s.assessmentId}`
const seen = (w: ReturnType<typeof workingsOf>, t: TableLike) => ({
  standing: standingRows(w),
  grades: wholeResult(gradeWorkings(w)),
  open: openItems(w, planFacts(t)),
})

test('scripts written one after the other leave what a fresh fetch would give', () =>
  fc.assert(
    fc.property(scripts, fc.array(script, { maxLength: 4 }), (before, writes) => {
      const now = new Map(before.map((s) => [key(s), s]))
      let w = workingsOf(table(before))
      for (const s of writes) {
        w = withScripts(w, [s])!.workings
        now.set(key(s), s)
      }
      const fresh = table([...now.values()])
      expect(seen(w, fresh)).toEqual(seen(workingsOf(fresh), fresh))
    }),
  ))

test('another plan over the same scripts is what a fetch of both would give', () =>
  fc.assert(
    fc.property(scripts, fc.boolean(), fc.constantFrom(...ASSESSMENTS), (before, placed, out) => {
      const more: Partial<TableLike> = {
        agreed: { 'b:x': 11 },
        leftOut: { [out]: ['y'] },
        placements: placed ? [] : [{ assessmentId: out, sectionId: 's', due: null }],
        boundaries: [{ grade: 'All', from: 0 }],
      }
      const fresh = table(before, more)
      expect(seen(withPlan(workingsOf(table(before)), fresh)!, fresh)).toEqual(seen(workingsOf(fresh), fresh))
    }),
  ))

test('what names somebody unknown, or a plan of other people, is refused: all has to be fetched', () => {
  const w = workingsOf(table([]))
  const unknown = { studentId: 'nobody', assessmentId: 'a', status: 'in' as const, daysLate: 0, entered: 3, readings: [] }
  expect(withScripts(w, [unknown])).toBeNull()
  expect(withScripts(w, [{ ...unknown, studentId: 'x', readings: [{ markerId: 'stranger', mark: 2 }] }])).toBeNull()
  expect(withPlan(w, table([], { students: STUDENTS.slice(1) }))).toBeNull()
})

const top: Adjustment = {
  id: 'top',
  assessmentId: 'a',
  outOf: 20,
  sectionIds: null,
  method: { kind: 'topTo', to: 20 },
  on: true,
  neverLower: false,
  above: 'keep within',
  step: null,
}

test('what stands and is graded anew in some cells is what all of it graded anew would be; a rescaled one is not done by halves', () =>
  fc.assert(
    fc.property(scripts, fc.array(script, { minLength: 1, maxLength: 3 }), fc.boolean(), (before, writes, rescaled) => {
      const w = workingsOf(table(before, { adjustments: rescaled ? [top] : [], agreed: { 'b:x': 11 } }))
      const was = standingMarks(w)
      const graded = gradeStanding(w, was)
      const { workings, cells } = withScripts(w, writes)!
      const standing = standingAfter(was, workings, cells)
      if (rescaled && cells.some((c) => workings.cells.assessmentId(c) === 'a')) return expect(standing).toBeNull()
      expect(standingRows(workings, standing!)).toEqual(standingRows(workings))
      expect(gradeAfter(graded, workings, standing!, cells).columns).toEqual(gradeStanding(workings, standingMarks(workings)).columns)
    }),
  ))

const asked = fc.array(
  fc.record({
    id: fc.uuid(),
    assessmentId: fc.constantFrom(...ASSESSMENTS),
    least: fc.constantFrom(25, 50, 75),
    atMost: fc.constant('Fail'),
  }),
  { maxLength: 2 },
)

test('graded by other limits and conditions is what all of it graded by them would be, exactly on a limit too', () =>
  fc.assert(
    fc.property(
      scripts,
      fc.integer({ min: 0, max: 40 }),
      fc.constantFrom(null, { decimals: 1 as const }),
      asked,
      (before, half, rounding, conditions) => {
        const t = table(before)
        const w = workingsOf({ ...t, policy: { ...t.policy, rounding } })
        const limits = [
          { grade: 'Pass', from: half * 2.5 },
          { grade: 'Fail', from: 0 },
        ]
        const now = { ...w, course: { ...w.course, boundaries: limits, conditions } }
        const standing = standingMarks(w)
        expect(gradeByLimits(gradeStanding(w, standing), now).columns).toEqual(gradeStanding(now, standing).columns)
      },
    ),
  ))
