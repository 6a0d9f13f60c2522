import { compareIssues } from './compare-issues'
import type { IssueContent, IssuedDecision, IssuedResult } from './issue'

const result = (studentId: string, more: Partial<IssuedResult> = {}): IssuedResult => ({
  studentId,
  candidate: `no ${studentId}`,
  name: studentId,
  section: 'East',
  final: 61.25,
  rounded: 61,
  grade: 'Merit',
  pending: 0,
  components: [],
  marks: [24, 15],
  ...more,
})
const decision = (summary: string): IssuedDecision => ({ kind: 'bound', summary, reason: 'the board', by: 'Ines', at: '2026-12-01' })
const issue = (number: number, results: IssuedResult[], more: Partial<IssueContent> = {}): IssueContent => ({
  course: { code: 'C', title: 'Course', term: 'autumn' },
  number,
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: { decimals: 0 }, above100: 'cap' },
  boundaries: [
    { grade: 'Merit', from: 60 },
    { grade: 'Pass', from: 0 },
  ],
  components: [{ title: 'Work', weight: 100 }],
  assessments: ['Paper', 'Essay'].map((title) => ({ title, component: 'Work', outOf: 40, worth: 40, counts: true, bonus: false })),
  conditions: [],
  adjustments: [],
  decisions: [],
  results,
  ...more,
})

test('two that say the same differ in nothing, whatever the last place of a sum', () => {
  const of = (final: number) => issue(1, [result('ada', { final })])
  expect(compareIssues(of(61.25), { ...of(61.25 + 1e-12), number: 2 })).toEqual({
    from: 1,
    to: 2,
    students: [],
    grades: 0,
    also: [],
    decided: [],
    withdrawn: [],
  })
})

test('a mark that is another is named with who wrote it, also where percent and grade stay', () => {
  const by = [{ who: 'Rune', did: 'typed' as const, at: '2026-12-03' }]
  const asked: string[] = []
  const { students, grades } = compareIssues(
    issue(1, [result('ada'), result('bo')]),
    issue(2, [result('ada', { marks: [24, { mark: 15, plain: 14, status: 'late', daysLate: 2 }] }), result('bo')]),
    (studentId, assessment) => {
      asked.push(`${studentId} ${assessment}`)
      return by
    },
  )
  expect(grades).toBe(0)
  expect(students).toEqual([
    expect.objectContaining({
      studentId: 'ada',
      is: 'in both',
      marks: [
        {
          assessment: 'Essay',
          was: { mark: 15, status: 'in', daysLate: 0 },
          now: { mark: 15, plain: 14, status: 'late', daysLate: 2 },
          by,
        },
      ],
    }),
  ])
  // Of what is the same nobody asks.
  expect(asked).toEqual(['ada Essay'])
})

test.each([
  ['a grade', { grade: 'Pass' }, 1],
  ['a percent', { final: 61.5, rounded: 62 }, 0],
  ['a section', { section: 'West' }, 0],
  ['a percent that is taken away', { final: null, rounded: null, grade: null }, 1],
  ['a rescaled percent', { adjusted: 64 }, 0],
])('%s that is another makes a student differ', (_, more, grades) => {
  const d = compareIssues(issue(1, [result('ada')]), issue(2, [result('ada', more)]))
  expect([d.students.length, d.grades]).toEqual([1, grades])
})

test('who came and who went are told apart', () => {
  const d = compareIssues(issue(1, [result('ada'), result('bo')]), issue(2, [result('bo'), result('cy')]))
  expect(d.students.map((s) => [s.studentId, s.is, s.was?.grade ?? null, s.now?.grade ?? null])).toEqual([
    ['cy', 'new', null, 'Merit'],
    ['ada', 'gone', 'Merit', null],
  ])
})

test('marks are found by the title of their assessment, also where the plan has one more or another order', () => {
  const more = issue(1, []).assessments!
  const later = issue(2, [result('ada', { marks: [15, 24, 30] })], { assessments: [more[1]!, more[0]!, { ...more[0]!, title: 'Quiz' }] })
  const { students, also } = compareIssues(issue(1, [result('ada')]), later)
  expect(students.flatMap((s) => s.marks.map((m) => [m.assessment, m.was, m.now?.mark]))).toEqual([['Quiz', null, 30]])
  expect(also).toEqual(['the plan'])
})

test('decisions that came and that no longer hold are told apart; what an issue of before did not write down is not said to differ', () => {
  const first = issue(1, [result('ada')], { decisions: [decision('Merit from 60'), decision('Essay +1')] })
  const second = issue(2, [result('ada')], {
    decisions: [decision('Merit from 60'), decision('Paper +2')],
    boundaries: [
      { grade: 'Merit', from: 58 },
      { grade: 'Pass', from: 0 },
    ],
    adjustments: ['Paper +2'],
    conditions: [{ on: 'Paper', least: 40, atMost: 'Pass' }],
    components: [{ title: 'Work', weight: 90 }],
  })
  const d = compareIssues(first, second)
  expect([d.decided, d.withdrawn].map((l) => l.map((x) => x.summary))).toEqual([['Paper +2'], ['Essay +1']])
  expect(d.also).toEqual(['boundaries', 'weights', 'conditions', 'rescaling'])
  const { decisions: _, adjustments: __, conditions: ___, assessments: ____, ...old } = first
  const before = compareIssues(old, second)
  expect([before.decided, before.also]).toEqual([[], ['boundaries', 'weights']])
})
