import type { IssuedResult } from './issue'
import { changedInWords, resultInWords } from './result-in-words'

const frozen = {
  policy: {
    missing: { kind: 'floor' as const, percent: 20 },
    absent: { kind: 'exempt' as const },
    late: { kind: 'perDay' as const, percent: 5, maxDays: 3 },
    rounding: { decimals: 0 as const },
    above100: 'cap' as const,
  },
  boundaries: [
    { grade: 'Merit', from: 70 },
    { grade: 'Pass', from: 50 },
    { grade: 'Refer', from: 0 },
  ],
  components: [
    { title: 'Book', weight: 60 },
    { title: 'Paper', weight: 40 },
    { title: 'Open day', weight: 5, bonus: true as const },
  ],
  assessments: [
    { title: 'Book 1', component: 'Book', outOf: 35, worth: 10, counts: true, bonus: false },
    { title: 'Book 2', component: 'Book', outOf: 35, worth: 10, counts: true, bonus: false },
    { title: 'Paper', component: 'Paper', outOf: 80, worth: 80, counts: true, bonus: false },
    { title: 'Stand', component: 'Open day', outOf: 10, worth: 10, counts: true, bonus: true },
  ],
  conditions: [{ on: 'Paper', least: 40, atMost: 'Pass' }],
}
const result = (more: Partial<IssuedResult> = {}): IssuedResult => ({
  studentId: 's',
  candidate: '1',
  name: 'Ada',
  section: 'East',
  final: 69.504,
  adjusted: 71.5,
  rounded: 72,
  grade: 'Pass',
  pending: 0,
  components: [
    { title: 'Book', percent: 80 },
    { title: 'Paper', percent: 38 },
    { title: 'Open day', percent: 50 },
  ],
  marks: [28, { mark: 20, status: 'late', daysLate: 2 }, { mark: 30.4, plain: 28, status: 'in', daysLate: 0 }, 5],
  dropped: [1],
  heldBy: [0],
  ...more,
})

test('each part says what its works counted, what was late, rescaled or left out, and what it weighs', () => {
  expect(resultInWords(frozen, result()).components).toEqual([
    {
      title: 'Book',
      percent: 80,
      words: [
        'Book 1: 28 of 35.',
        'Book 2: 20 of 35, 2 days late (5% of the maximum taken off a day, for 3 days at most), left out as the lowest.',
        'It weighs 60.',
      ],
    },
    { title: 'Paper', percent: 38, words: ['Paper: 30.4 of 80, rescaled from 28.', 'It weighs 40.'] },
    { title: 'Open day', percent: 50, words: ['Stand: 5 of 10, a bonus.', 'A bonus: it adds 2.5 points.'] },
  ])
})

test('the steps go from the parts to the grade, and say what held it', () => {
  expect(resultInWords(frozen, result()).steps).toEqual([
    'By their weights the parts make 69.5%.',
    'The course was rescaled for everybody: 71.5%.',
    'Rounded half up to whole percents: 72%.',
    'Merit begins at 70.',
    'A grade above Pass asks for at least 40% in Paper, so it is Pass.',
  ])
  const plainly = result({ final: 60, adjusted: undefined, rounded: 60, heldBy: [] })
  expect(resultInWords(frozen, plainly).steps).toEqual(['By their weights the parts make 60%.', 'Pass begins at 50. Merit begins at 70.'])
  expect(resultInWords(frozen, result({ final: null, pending: 2 })).steps).toEqual([
    '2 works are still open, so there is no course percent yet.',
  ])
})

test.each([
  [{ mark: null, status: 'missing' }, 'missing, counts 20%'],
  [{ mark: null, status: 'absent' }, 'absent, left out'],
  [{ mark: null, status: 'exempt' }, 'exempt, left out'],
  [{ mark: null, status: 'held' }, 'looked into, still open'],
  [{ mark: null, status: 'in' }, 'no mark yet'],
  [{ mark: 0, status: 'in' }, '0 of 35'],
] as const)('a mark that is %j is said to be so', (mark, words) => {
  const own = result({ marks: [{ ...mark, daysLate: 0 }, null, null, null] })
  expect(resultInWords(frozen, own).components[0]!.words).toEqual([`Book 1: ${words}.`, 'It weighs 60.'])
})

test('an issue that wrote no marks down says what it has', () => {
  const { assessments: _, ...old } = frozen
  expect(resultInWords(old, result({ marks: undefined, dropped: undefined })).components[0]).toEqual({
    title: 'Book',
    percent: 80,
    words: ['It weighs 60.'],
  })
})

test('what a later issue changed is the grade, the percent and the marks behind them, and nothing where nothing did', () => {
  const was = { ...frozen, result: result({ grade: null, rounded: null }) }
  const now = {
    ...frozen,
    boundaries: [{ grade: 'Merit', from: 68 }, ...frozen.boundaries.slice(1)],
    result: result({ marks: [30, { mark: null, status: 'exempt', daysLate: 0 }, { mark: 30.4, status: 'in', daysLate: 0 }, 5] }),
  }
  expect(changedInWords(was, now)).toEqual([
    'The grade was still open and is Pass.',
    'The percent was still open and is 72.',
    'Book 1: 28 before, 30 now.',
    'Book 2: 20 (2 days late) before, exempt now.',
    'Where grades begin was moved.',
  ])
  expect(changedInWords(was, was)).toEqual([])
})

test('an earlier result says what made the difference: lateness, a weight, a worth, a condition, a rule', () => {
  const held = { on: 'Paper', least: 45, atMost: 'Pass' }
  const late = (daysLate: number) => ({ mark: 30, status: 'late' as const, daysLate })
  const was = { ...frozen, conditions: [held], result: result({ rounded: 70, grade: 'Pass', marks: [late(2), 20, 30, 5], heldBy: [0] }) }
  const now = {
    ...frozen,
    conditions: [held],
    policy: { ...frozen.policy, missing: { kind: 'zero' as const } },
    components: [{ title: 'Book', weight: 55 }, ...frozen.components.slice(1)],
    assessments: frozen.assessments.map((a) => (a.title === 'Book 2' ? { ...a, worth: 20 } : a)),
    result: result({ rounded: 71, grade: 'Merit', marks: [late(1), 20, 30, 5], heldBy: [] }),
  }
  expect(changedInWords(was, now)).toEqual([
    'The grade was Pass and is Merit.',
    'The percent was 70 and is 71.',
    'Book 1: 30 (2 days late) before, 30 (1 day late) now.',
    'What a grade above Pass asked for in Paper, at least 45%, holds it back no more.',
    'Book weighs 55, and 60 before.',
    'Book 2 is worth 20, and 10 before.',
    'The rule for missing work was changed.',
  ])
})

test('decimals are written with a comma for readers who use one, in a result and in what changed', () => {
  const was = { ...frozen, result: result({ rounded: 70.5, grade: 'Merit' }) }
  const now = { ...frozen, result: result({ rounded: 71.25, grade: 'Merit' }) }
  expect(changedInWords(was, now, 'comma')).toEqual(['The percent was 70,5 and is 71,25.'])
  const { steps } = resultInWords(frozen, result({ final: 70.456, rounded: 70.5, grade: 'Merit' }), 'comma')
  expect(steps[0]).toBe('By their weights the parts make 70,46%.')
  expect(steps.join(' ')).not.toMatch(/\d\.\d/)
})
