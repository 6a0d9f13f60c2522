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
  const found = lookNext(smallState(table()))
  expect([found.scripts, found.errors, found.graded]).toEqual([[], [], 2])
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
