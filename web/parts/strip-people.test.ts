import { countsOfTable, gradeCounts } from '#core/grades'
import { smallState, smallTable } from '../testing/small-course'
import { peopleOf } from './strip-people'

const { adopted } = smallState(
  smallTable([
    ['ada', 'paper', 30],
    ['ada', 'essay', 15],
    ['bo', 'paper', 20],
    ['di', 'paper', null],
  ]),
)

test('on the strip are those who have a percent, final where nothing is pending, as their results say', () => {
  const { ids, value, final } = peopleOf(adopted.graded)
  const results = adopted.result.students.filter((s) => s.soFar !== null)
  expect(ids.map((id, i) => [id, value[i], final[i] === 1])).toEqual(
    results.map((s) => [s.studentId, s.adjusted ?? s.soFar, s.final !== null]),
  )
  expect(results.some((s) => s.final === null)).toBe(true)
})

test('grades are counted in columns as they are counted person by person', () => {
  const { boundaries, table } = adopted.graded
  expect(countsOfTable(boundaries, table)).toEqual(gradeCounts(adopted.result))
  expect(gradeCounts(adopted.result).some((c) => c.count > 0)).toBe(true)
})
