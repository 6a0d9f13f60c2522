import { smallState, smallTable } from '../testing/small-course'
import { compareSections } from './compared'
import { WHOLE_COURSE } from './of-what'

const course = () =>
  smallState(
    smallTable([
      ['ada', 'paper', 30],
      ['bo', 'paper', 12],
      ['cy', 'paper', null],
      ['di', 'paper', null, 'exempt'],
      ['ada', 'essay', 10],
    ]),
  )

test('an assessment by section: who is in it, who passed, who has no mark yet', () => {
  const { title, unit, top, passMark, tolerance, mean, sections } = compareSections(course(), 'paper')
  expect({ title, unit, top, passMark, tolerance, mean }).toEqual({
    title: 'paper',
    unit: 'marks',
    top: 40,
    passMark: 16,
    tolerance: 1.2,
    mean: 21,
  })
  expect(sections.map((s) => [s.name, s.people, s.passed, s.open])).toEqual([
    [
      'East',
      [
        { id: 'ada', value: 30 },
        { id: 'bo', value: 12 },
      ],
      1,
      0,
    ],
    // Exempt is no mark that is waited for.
    ['West', [], 0, 1],
  ])
  expect(sections[0]!.figures).toMatchObject({ n: 2, mean: 21 })
})

test('a component and the whole course are compared in percent; the lowest boundary above zero is the pass mark of the course', () => {
  const exam = compareSections(course(), 'exam')
  expect([exam.title, exam.unit, exam.top, exam.passMark]).toEqual(['Exam', 'percent', 100, null])
  expect(exam.sections[0]!.people).toEqual([
    { id: 'ada', value: 75 },
    { id: 'bo', value: 30 },
  ])
  expect(exam.sections[0]!.passed).toBeNull()
  const whole = compareSections(course(), WHOLE_COURSE)
  expect([whole.title, whole.passMark]).toEqual(['The course', 40])
  expect(whole.sections[0]!.people.find((p) => p.id === 'ada')!.value).toBe(62.5)
  expect(whole.sections.map((s) => s.open)).toEqual([1, 2])
})
