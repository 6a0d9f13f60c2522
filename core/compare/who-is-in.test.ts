import { whoIsIn } from './who-is-in'

test('one rule says which students a figure counts: a mark or readings, every mark of a component, a percent or the percent so far', () => {
  const of = (of: 'assessment' | 'component' | 'course', counted: number, notFinal = 0) => whoIsIn({ of, counted, all: 236, notFinal })
  expect(of('assessment', 236)).toBe('These figures count all 236 students: those with a mark.')
  expect(of('assessment', 230, 8)).toBe(
    'These figures count 230 of 236 students: those with a mark. For 8 of them it is the mean of readings that are not settled yet.',
  )
  expect(of('component', 198)).toBe('These figures count 198 of 236 students: those with every mark in it.')
  expect(of('course', 236, 38)).toBe('These figures count all 236 students: those with a percent. For 38 of them it is the percent so far.')
})
