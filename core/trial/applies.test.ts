import fc from 'fast-check'
import { gradeCourse } from '../grades/grade-course'
import type { MarkRow } from '../grades/course'
import { addChanges, applyChanges, changeTarget, type Change } from './changes'
import { scriptIdOf } from './cells'
import { planFacts, workingsOf, type TableLike } from './course-table'
import { openItems } from './open-items'
import { courseOfPlan, planWithChanges } from './plan-with-changes'
import { gradeWorkings } from './grade-workings'
import { standingRows, toCourse } from './standing-marks'

const SECTIONS = ['s1', 's2']
const ASSESSMENTS = ['a', 'b', 'c', 'd']
const POLICY: TableLike['policy'] = {
  missing: { kind: 'zero' },
  absent: { kind: 'pending' },
  late: { kind: 'none' },
  rounding: { decimals: 1 },
  above100: 'cap',
}

/** A small course with every script marked. */
function table(marks: number[][], more: Partial<TableLike> = {}): TableLike {
  const students = marks.map((_, i) => ({ id: `x${i}`, sectionId: SECTIONS[i % 2]! }))
  const pairs = students.flatMap((_, s) => ASSESSMENTS.map((_, a) => [s, a] as const))
  return {
    policy: POLICY,
    boundaries: [
      { grade: 'Pass', from: 50 },
      { grade: 'Fail', from: 0 },
    ],
    students,
    markers: [],
    components: [
      { id: 'k', weight: 60, combine: 'byWorth', dropLowest: 1, bonus: false },
      { id: 'l', weight: 40, combine: 'equally', dropLowest: 0, bonus: false },
    ],
    assessments: ASSESSMENTS.map((id, i) => ({
      id,
      componentId: i < 3 ? 'k' : 'l',
      outOf: 20,
      worth: 10 + i,
      counts: true,
      bonus: false,
      droppable: true,
      readingsWanted: 1,
      tolerance: 0,
    })),
    placements: SECTIONS.flatMap((sectionId) => ASSESSMENTS.map((assessmentId) => ({ assessmentId, sectionId, due: '2026-10-12' }))),
    stays: {},
    leftOut: {},
    scripts: {
      id: pairs.map(([s, a]) => scriptIdOf(ASSESSMENTS[a]!, students[s]!.id)),
      student: pairs.map(([s]) => s),
      assessment: pairs.map(([, a]) => a),
      status: pairs.map(() => 0),
      daysLate: pairs.map(() => 0),
      entered: pairs.map(([s, a]) => marks[s]![a]!),
    },
    readings: { script: [], marker: [], mark: [] },
    agreed: {},
    adjustments: [],
    ...more,
  }
}

const marks = fc.array(fc.array(fc.integer({ min: 0, max: 20 }), { minLength: 4, maxLength: 4 }), { minLength: 2, maxLength: 6 })
const finals = (t: TableLike, changes: Change[] = []) => {
  const w = applyChanges(workingsOf(t), changes)
  return gradeWorkings(w).students.map((s) => [s.studentId, s.final])
}

test('who is left out stands as if exempt, and back in as before', () =>
  fc.assert(
    fc.property(marks, fc.nat({ max: 3 }), fc.nat({ max: 5 }), (m, a, s) => {
      const t = table(m)
      const studentId = `x${s % m.length}`
      const assessmentId = ASSESSMENTS[a]!
      const out: Change = { kind: 'exclude', assessmentId, studentId, out: true }
      const course = toCourse(workingsOf(t))
      const exempt = (r: MarkRow): MarkRow =>
        r.studentId === studentId && r.assessmentId === assessmentId ? { ...r, status: 'exempt', mark: null } : r
      const expected = gradeCourse({ ...course, marks: course.marks.map(exempt) }).students.map((x) => [x.studentId, x.final])
      expect(finals(t, [out])).toEqual(expected)
      expect(finals(t, [out, { ...out, out: false }])).toEqual(finals(t))
    }),
  ))

test('who moved stands as one always in a section with just what applies to them', () =>
  fc.assert(
    fc.property(marks, fc.subarray(ASSESSMENTS), fc.subarray(ASSESSMENTS), (m, before, after) => {
      const placements = [
        ...before.map((assessmentId) => ({ assessmentId, sectionId: 's2', due: '2026-09-20' })),
        ...after.map((assessmentId) => ({ assessmentId, sectionId: 's1', due: '2026-11-20' })),
      ]
      const stays = {
        x0: [
          { sectionId: 's2', from: '2026-09-07', to: '2026-10-11' },
          { sectionId: 's1', from: '2026-10-12', to: null },
        ],
      }
      const moved = finals(table(m, { placements, stays }))[0]
      const union = [...new Set([...before, ...after])].map((assessmentId) => ({ assessmentId, sectionId: 's1', due: null }))
      expect(moved).toEqual(finals(table(m, { placements: union }))[0])
    }),
  ))

test('what is set for a student and has no script is a blank: pending, counted as unmarked, never a nothing', () => {
  const t = table([[10, 10, 10, 10]])
  const empty = { ...t, scripts: { id: [], student: [], assessment: [], status: [], daysLate: [], entered: [] } }
  const w = workingsOf(empty)
  expect(standingRows(w).map((s) => s.scriptId)).toEqual(ASSESSMENTS.map((a) => scriptIdOf(a, 'x0')))
  expect(standingRows(w).every((s) => s.mark === null && s.source === 'none')).toBe(true)
  const [student] = gradeCourse(toCourse(w)).students
  expect(student).toMatchObject({ final: null, pending: 4, lowest: 0, highest: 100 })
  expect(
    openItems(w, planFacts(empty))
      .filter((i) => i.kind === 'unmarked')
      .map((i) => i.count),
  ).toEqual([1, 1, 1, 1])
})

describe('changes of the plan', () => {
  const t = table([[10, 10, 10, 10]])
  test('what nobody typed and nobody decided stays empty', () => {
    const plan = {
      ...t,
      components: t.components.map((c) => ({ ...c, weight: null })),
      assessments: t.assessments.map((a) => ({ ...a, worth: null })),
    }
    const { plan: after } = planWithChanges(plan, [
      { kind: 'weigh', componentId: 'k', weight: 30 },
      { kind: 'assess', assessmentId: 'a', patch: { worth: 5 } },
      { kind: 'assess', assessmentId: 'b', patch: { counts: false } },
    ])
    expect(after.components.map((c) => c.weight)).toEqual([30, null])
    expect(after.assessments.map((a) => [a.worth, a.counts])).toEqual([
      [5, true],
      [null, false],
      [null, true],
      [null, true],
    ])
  })
  test('each kind changes what it says and no more', () => {
    const one = (change: Change) => planWithChanges(t, [change]).plan
    expect(one({ kind: 'shape', componentId: 'k', patch: { dropLowest: 0 } }).components.map((c) => c.dropLowest)).toEqual([0, 0])
    expect(one({ kind: 'take away', assessmentId: 'a' }).assessments.map((a) => a.counts)).toEqual([false, true, true, true])
    expect(one({ kind: 'policy', policy: { ...POLICY, above100: 'allow' } }).policy.above100).toBe('allow')
    expect(one({ kind: 'assess', assessmentId: 'a', patch: { componentId: 'l' } }).assessments[0]!.componentId).toBe('l')
    expect(one({ kind: 'exclude', assessmentId: 'a', studentId: 'x0', out: true }).leftOut).toEqual({ a: ['x0'] })
  })
  test('a later change to the same thing takes the place of the earlier, patches add up, different students stand side by side', () => {
    const trial = addChanges(
      [
        { kind: 'shape', componentId: 'k', patch: { dropLowest: 2 } },
        { kind: 'exclude', assessmentId: 'a', studentId: 'x0', out: true },
      ],
      [
        { kind: 'shape', componentId: 'k', patch: { combine: 'equally' } },
        { kind: 'exclude', assessmentId: 'a', studentId: 'x1', out: true },
        { kind: 'exclude', assessmentId: 'a', studentId: 'x0', out: false },
      ],
    )
    expect(trial).toEqual([
      { kind: 'shape', componentId: 'k', patch: { dropLowest: 2, combine: 'equally' } },
      { kind: 'exclude', assessmentId: 'a', studentId: 'x0', out: false },
      { kind: 'exclude', assessmentId: 'a', studentId: 'x1', out: true },
    ])
    expect(new Set(trial.map(changeTarget)).size).toBe(3)
  })
  test('a plan as a course carries its weights without a student', () => {
    const course = courseOfPlan(t, t.placements)
    expect([course.students, course.marks]).toEqual([[], []])
    expect(course.placements).toHaveLength(8)
  })
})
