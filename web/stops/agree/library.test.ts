import type { Library } from '#contract'
import { entry } from '../../testing/library-entry'
import { entriesOf, hiddenOf, pointsOf, wordsOf } from './library'
import { ruleInWords } from './outcome-words'

const usedIn = (courseId: string, hides: { hidesPoints?: boolean; hidesWords?: boolean } = {}) => ({
  courseId,
  course: courseId,
  assessmentId: `${courseId}-a`,
  assessment: 'Map',
  outOf: 20,
  standardId: 'r',
  version: 1,
  behind: 0,
  hidesPoints: false,
  hidesWords: false,
  ...hides,
})
const library: Library = {
  rubrics: [
    {
      ...entry('r', 'Rubric 10', { uses: [usedIn('here', { hidesPoints: true })], hides: { points: true, words: false } }),
      criteria: [
        {
          id: 'c',
          title: 'Relief',
          ranges: false,
          penalty: false,
          outcomeIds: ['o'],
          levels: [
            { points: 0, words: 'Flat' },
            { points: 8, words: 'Standing up' },
          ],
        },
        { id: 'p', title: 'Late', ranges: false, penalty: true, levels: [{ points: 4, words: 'a day' }] },
      ],
    },
    { ...entry('old', 'Rubric 2', { superseded: true }), criteria: [] },
  ],
  schemes: [{ ...entry('s', 'rubric 2'), criteria: [{ id: 'x', title: 'Sums', max: 12.5, words: 'closed' }] }],
  scales: [{ ...entry('l', 'Labels'), labels: [{ label: 'sound', percent: 60, threshold: 50 }] }],
  outcomes: [
    {
      ...entry('o', 'Sheds detail'),
      statement: 'Leaves out what the reader does not need.',
      levels: [{ label: 'alone', words: 'unasked' }],
      reached: 1,
      rule: { kind: 'latest' },
    },
  ],
}
const [labels, scheme, rubric, outcome] = entriesOf(library)

test('one list by title, numbers as numbers, without what a newer version replaced', () =>
  expect(entriesOf(library).map((e) => e.standard.title)).toEqual(['Labels', 'rubric 2', 'Rubric 10', 'Sheds detail']))

test('an entry is found by title, owner, kind, and every word in it; a rubric by its outcomes', () => {
  const all = wordsOf(rubric!, library.outcomes)
  for (const words of ['rubric 10', 'ola quist', 'relief', 'standing up', 'sheds detail']) expect(all).toContain(words)
  expect(wordsOf(scheme!)).toContain('mark scheme')
  expect(wordsOf(scheme!)).toContain('closed')
  expect(wordsOf(labels!)).toContain('sound')
  expect(wordsOf(outcome!)).toContain('leaves out what the reader')
  expect(wordsOf(outcome!)).toContain('unasked')
})

test('an entry hides what the server says is hidden from this person, and nothing else', () => {
  expect(hiddenOf(rubric!)).toEqual({ points: true, words: false })
  expect(hiddenOf(scheme!)).toEqual({ points: false, words: false })
})

test('what an entry comes to in points: penalties add nothing, a scale has none', () =>
  expect([rubric, scheme, labels, outcome].map((e) => pointsOf(e!))).toEqual([8, 12.5, null, null]))

test('the rule of an outcome in words', () => {
  expect(ruleInWords({ kind: 'times', times: 2, of: 3 })).toBe('reached 2 times of the last 3')
  expect(ruleInWords({ kind: 'times', times: 2, of: null })).toBe('reached 2 times of all results')
  expect(ruleInWords({ kind: 'recent', alpha: 0.65 })).toMatch(/\(the latest 65%\)/)
  expect(ruleInWords({ kind: 'mean' })).toBe('the mean of all results')
})
