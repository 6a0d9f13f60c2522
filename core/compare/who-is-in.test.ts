import { whoIsIn } from './who-is-in'

test('one rule says which students a figure counts: a mark or readings, every mark of a component, a percent or the percent so far', () => {
  const of = (of: 'assessment' | 'component' | 'course', counted: number, notFinal = 0) => whoIsIn({ of, counted, all: 236, notFinal })
  expect(of('assessment', 236)).toBe('all 236 students, those with a mark')
  expect(of('assessment', 230, 8)).toBe(
    '230 of 236 students, those with a mark; for 8 of them the mean of readings that are not settled yet',
  )
  const alone = { of: 'course', all: 1, notFinal: 0 } as const
  expect([1, 0].map((counted) => whoIsIn({ ...alone, counted }))).toEqual([
    'the one student, with a percent',
    '0 of 1 student, with a percent',
  ])
  expect(of('component', 198)).toBe('198 of 236 students, those with every mark in it')
  expect(of('course', 236, 38)).toBe('all 236 students, those with a percent; for 38 of them the percent so far')
})
