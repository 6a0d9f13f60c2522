import { readPlanLines } from './plan-lines'

const TERM = { firstDay: '2026-09-07', lastDay: '2026-12-18' }
const read = (text: string, there = { components: ['Exam'], assessments: ['Mock'] }) => readPlanLines(text, there, TERM)
const adds = (text: string) => read(text).lines.map((l) => l.adds ?? l.why)

test('title, component, out of, worth, due: with commas, semicolons or tabs, with a heading or none', () => {
  const line = { title: 'Quiz 1', component: 'Quizzes', outOf: 20, worth: 10, due: { kind: 'day', day: '2026-10-12' } }
  expect(adds('Quiz 1, Quizzes, 20, 10, 12 Oct')).toEqual([line])
  expect(adds('Title;Component;Out of;Worth;Due\nQuiz 1;Quizzes;20;10;2026-10-12')).toEqual([line])
  expect(adds('Quiz 1\tQuizzes\t20\t10\t12.10.')).toEqual([line])
  expect(adds('"Quiz 1, the short one", Quizzes, 20')).toEqual([
    { title: 'Quiz 1, the short one', component: 'Quizzes', outOf: 20, worth: null, due: null },
  ])
  expect(adds('Paper;exam;12,5;;w6')).toEqual([
    { title: 'Paper', component: 'Exam', outOf: 12.5, worth: null, due: { kind: 'week', week: 6 } },
  ])
})

test('a component goes on from the line above, comes with its weight, and is made once', () => {
  const { lines, components } = read(
    'Quiz 1, Quizzes 25%, 20\nQuiz 2, , 20\nQuiz 3, quizzes, 20\nEssay, "Essays (12,5%)", 100\nPaper, Exam, 80',
  )
  expect(lines.map((l) => l.adds!.component)).toEqual(['Quizzes', 'Quizzes', 'Quizzes', 'Essays', 'Exam'])
  expect(components).toEqual([
    { title: 'Quizzes', weight: 25 },
    { title: 'Essays', weight: 12.5 },
  ])
})

test.each([
  [', Exam, 20', 'The title is missing.'],
  ['mock, Exam, 20', 'mock stands in the plan already.'],
  ['Paper, , 20', 'The component is missing: write it after the title.'],
  ['Paper, Exam, many', 'Marked out of “many”: give a number above 0, with 3 decimals at most.'],
  ['Paper, Exam, 0', 'Marked out of “0”: give a number above 0, with 3 decimals at most.'],
  ['Paper, Exam, 20, -1', 'Worth “-1”: give a number from 0 to 10000, or nothing where it is worth what it is marked out of.'],
  ['Paper, Exam, 20, 10, w60', 'The term has weeks 1 to 15.'],
  ['"Paper, Exam, 20', 'A quotation mark is not closed.'],
])('%s is refused: %s', (text, why) => {
  expect(adds(text)).toEqual([why])
})

test('lines of one title are numbered, past what the plan and other lines have; lines keep their numbers', () => {
  const quizzes = Array.from({ length: 7 }, () => 'Quiz, Exam, 20').join('\n')
  expect(read(quizzes).lines.map((l) => l.adds!.title)).toEqual(['Quiz', 'Quiz 2', 'Quiz 3', 'Quiz 4', 'Quiz 5', 'Quiz 6', 'Quiz 7'])
  const there = { components: ['Exam'], assessments: ['quiz 2'] }
  expect(read('Quiz, Exam, 20\n\nQuiz, Exam, 30', there).lines.map((l) => [l.line, l.adds!.title])).toEqual([
    [1, 'Quiz'],
    [3, 'Quiz 3'],
  ])
})

test('a quotation mark inside a title is a character', () =>
  expect(adds('The 5" rule, Exam, 20')).toMatchObject([{ title: 'The 5" rule' }]))
