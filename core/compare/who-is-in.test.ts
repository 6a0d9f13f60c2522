import { whoIsIn } from './who-is-in'

test('who is in a figure is said by one rule: a mark or readings, all of a component, a percent or the percent so far', () => {
  const of = (of: 'assessment' | 'component' | 'course', counted: number, notFinal = 0) => whoIsIn({ of, counted, all: 236, notFinal })
  expect(of('assessment', 236)).toBe('All 236 students are in these figures: whoever has a mark.')
  expect(of('assessment', 230, 8)).toBe(
    '230 of 236 students are in these figures: whoever has a mark, 8 of them with readings that are not settled, at their mean.',
  )
  expect(of('component', 198)).toBe('198 of 236 students are in these figures: whoever has all marks of it.')
  expect(of('course', 236, 38)).toBe(
    'All 236 students are in these figures: whoever has a percent, 38 of them with the percent so far, as it is not final.',
  )
})
