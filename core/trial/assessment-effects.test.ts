import { markerEffects } from '../compare/marker-effects'
import { STATUSES, type Status } from '../grades/course'
import { effectsIn } from './assessment-effects'
import { workingsOf, type TableLike } from './course-table'

const MANY = 12
const students = Array.from({ length: MANY }, (_, i) => ({ id: `s${i}`, sectionId: 'x' }))
/** Of each student, by the first marker and by the second, who gives two more and is a little uneven. */
const FIRST = students.map((_, i) => 8 + ((5 * i) % 11))
const SECOND = FIRST.map((mark, i) => mark + 2 + ((i % 3) - 1) / 2)

/** An essay that everybody is read twice for; before it in the plan a quiz that nobody is read for. */
function workings({ status = [], leftOut = [], twice = MANY }: { status?: Status[]; leftOut?: string[]; twice?: number } = {}) {
  const of = students.flatMap((_, i) => [[i, 0, FIRST[i]!] as const, ...(i < twice ? [[i, 1, SECOND[i]!] as const] : [])])
  const table: TableLike = {
    policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'cap' },
    boundaries: [{ grade: 'All', from: 0 }],
    students,
    markers: ['mo', 'ny'].map((id) => ({ id })),
    components: [{ id: 'k', weight: 100, combine: 'byWorth', dropLowest: 0, bonus: false }],
    assessments: ['quiz', 'essay'].map((id) => ({
      id,
      componentId: 'k',
      outOf: 25,
      worth: 10,
      counts: true,
      bonus: false,
      droppable: true,
      readingsWanted: 2,
      tolerance: 2,
    })),
    placements: ['quiz', 'essay'].map((assessmentId) => ({ assessmentId, sectionId: 'x', due: null })),
    stays: {},
    leftOut: { essay: leftOut },
    scripts: {
      id: [],
      student: students.map((_, i) => i),
      assessment: students.map(() => 1),
      status: students.map((_, i) => STATUSES.indexOf(status[i] ?? 'in')),
      daysLate: students.map(() => 0),
      entered: students.map(() => null),
    },
    readings: { script: of.map((r) => r[0]), marker: of.map((r) => r[1]), mark: of.map((r) => r[2]) },
    agreed: {},
    adjustments: [],
    conditions: [],
  }
  return workingsOf(table)
}

/** What the readings of some students come to, set down one by one. */
const estimated = (of: number[]) =>
  markerEffects({
    script: of.flatMap((i) => [i, i]),
    marker: of.flatMap(() => [0, 1]),
    mark: of.flatMap((i) => [FIRST[i]!, SECOND[i]!]),
    scripts: MANY,
    markers: 2,
  })
const all = [...students.keys()]

test('what the readings of an assessment tell is what they tell set down by themselves; of one that nobody read there is nothing', () => {
  const w = workings()
  expect(effectsIn(w, 1)).toEqual({ read: all.map((i) => 2 * i + 1), twice: MANY, effects: estimated(all) })
  expect(effectsIn(w, 0)).toEqual({ read: [], twice: 0, effects: null })
})

test('work that does not count there is left out, and what is known of the others is not taken for it', () => {
  const status: Status[] = ['absent']
  expect(effectsIn(workings({ status, leftOut: ['s3'] }), 1).effects).toEqual(estimated(all.filter((i) => i !== 0 && i !== 3)))
  const w = workings()
  const before = effectsIn(w, 1)
  expect(effectsIn({ ...w }, 1)).toBe(before)
  expect(effectsIn({ ...w, leftOut: { essay: ['s3'] } }, 1).twice).toBe(MANY - 1)
})

test('under ten scripts read twice nothing is told', () => {
  expect(effectsIn(workings({ twice: 9 }), 1)).toMatchObject({ twice: 9, effects: null })
  expect(effectsIn(workings({ twice: 10 }), 1).effects).not.toBeNull()
})
