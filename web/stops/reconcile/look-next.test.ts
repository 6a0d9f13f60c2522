import { smallState, smallTable } from '../../testing/small-course'
import { leansOf } from './leans'
import { lookNext } from './look-next'
import { readingQueueOf } from './queue'
import { queueOfColumns } from './queue-columns'

const READ: Parameters<typeof smallTable>[1] = [
  ['ada', 'essay', 'mo', 11],
  ['ada', 'essay', 'ny', 13],
  ['bo', 'essay', 'mo', 6],
  ['bo', 'essay', 'ny', 9],
]
const table = () =>
  smallTable(
    [
      ['ada', 'paper', 24],
      ['ada', 'essay', null],
      ['bo', 'paper', 20],
      ['bo', 'essay', null],
    ],
    READ,
    { agreed: { 'essay:ada': 12, 'essay:bo': 7.5 } },
  )

test('how far a reading is off is told by ten scripts read twice, and by fewer not at all', () => {
  const found = lookNext(smallState(table()), {})
  expect([found.scripts, found.errors, found.graded]).toEqual([[], [], 0])
  expect(found.unknown).toEqual(['paper', 'essay'])
})

test('readers are levelled by their leans where all of them can be compared, and not where one of them cannot', () => {
  const [row] = queueOfColumns(readingQueueOf(smallState(table()), null)).rows
  const marker = (id: string, lean: number | null, group = 0) => ({ id, lean, group })
  const compared = (...markers: ReturnType<typeof marker>[]) => ({ markers }) as unknown as Parameters<typeof leansOf>[0]
  expect(leansOf(compared(marker('mo', -1.23456), marker('ny', 1.23456)), row)).toEqual({ mo: -1.235, ny: 1.235 })
  expect(leansOf(compared(marker('mo', -1), marker('ny', null)), row)).toBeNull()
  expect(leansOf(compared(marker('mo', -1), marker('ny', 1, 1)), row)).toBeNull()
  expect(leansOf(compared(marker('mo', -1)), row)).toBeNull()
  expect(leansOf(undefined, row)).toBeNull()
})

test('one further reading of the script on a line comes first, the next of the same script as long as markers are left', () => {
  const state = smallState(table())
  const { current } = state
  // What one reading is off by is given: too few were read twice to tell it.
  const found = lookNext(state, { essay: 4 })
  const of = (id: string) => current.result.students.find((s) => s.studentId === id)!.adjusted!
  expect([of('ada'), of('bo')]).toEqual([60, 43.75])
  // Both markers read both scripts: nobody is left to read once more.
  expect(found.scripts).toEqual([])
  // Ada stands on the line of Merit: as likely wrong as not.
  expect(found.wrong).toBeGreaterThan(0.5)
  const more = lookNext(smallState({ ...table(), markers: ['mo', 'ny', 'oz', 'pat'].map((id) => ({ id, name: id })) }), { essay: 4 })
  expect(more.scripts.map((s) => [s.studentId, s.readings])).toEqual([
    ['ada', 2],
    ['ada', 3],
    ['bo', 2],
    ['bo', 3],
  ])
  expect(more.scripts[1]!.chance).toBe(more.scripts[0]!.chanceAfter)
  const after = more.scripts.reduce((sum, s) => sum + s.gain, 0)
  expect(more.wrong - after).toBeLessThan(more.wrong)
})
