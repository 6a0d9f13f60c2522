import { MARKINGS, markingBy, standardOf } from './markings'
import { JudgedError, markOf, markSoFar, unjudged, type Judged, type JudgedOn } from '.'

const judged = (more: Partial<Judged> = {}): Judged => ({ picks: {}, judgement: null, mark: null, ...more })
const RUBRIC: JudgedOn = {
  outOf: 20,
  standard: {
    kind: 'rubric',
    body: {
      criteria: [
        {
          id: 'aim',
          title: 'Aim',
          ranges: false,
          penalty: false,
          levels: [
            { points: 0, words: '' },
            { points: 4, words: '' },
          ],
        },
        {
          id: 'line',
          title: 'Line',
          ranges: true,
          penalty: false,
          levels: [
            { points: 0, words: '' },
            { points: 2, to: 6, words: '' },
          ],
        },
      ],
    },
  },
}
const SCHEME: JudgedOn = { outOf: 30, standard: { kind: 'scheme', body: { criteria: [{ id: 'x', title: 'Sums', max: 10 }] } } }
const SCALE: JudgedOn = { outOf: 50, standard: { kind: 'scale', body: { labels: [{ label: 'sound', percent: 62, threshold: 50 }] } } }
const DIRECT: JudgedOn = { outOf: 20, standard: null }
const DONE: JudgedOn = { outOf: 1, standard: null, completion: true }

const refusal = (work: () => unknown) => {
  try {
    work()
  } catch (e) {
    if (e instanceof JudgedError) return [e.field, e.message]
    throw e
  }
  return null
}

test.each([
  ['a rubric', RUBRIC, judged({ picks: { aim: 4, line: 3 } }), 14],
  ['a mark scheme', SCHEME, judged({ picks: { x: 4 } }), 12],
  ['a judgement', SCALE, judged({ judgement: 'sound' }), 31],
  ['a mark', DIRECT, judged({ mark: 17.5 }), 17.5],
  ['done or not', DONE, judged({ mark: 1 }), 1],
])('%s comes to its mark, and what belongs to another way is not kept', (_, on, of, mark) => {
  const stray = { ...of, mark: of.mark ?? 3 }
  expect(markOf(stray, on).mark).toBe(mark)
  expect(unjudged(of, on)).toEqual([])
})

test.each([
  ['a rubric', RUBRIC, judged({ picks: { line: 2 } }), ['picks', 'Not judged yet: Aim.']],
  ['a mark scheme', SCHEME, judged(), ['picks', 'Not judged yet: Sums.']],
  ['a judgement', SCALE, judged(), ['judgement', 'Choose a label of the scale.']],
  ['a mark', DIRECT, judged(), ['mark', 'Give a mark.']],
  ['done or not', DONE, judged(), ['mark', 'Say whether it was done.']],
])('%s that is not whole has no mark yet, and handing it in asks for what is missing', (_, on, of, asks) => {
  expect(markSoFar(of, on)).toBeNull()
  expect(refusal(() => markOf(of, on))).toEqual(asks)
})

test.each([
  ['points that are no level', RUBRIC, judged({ picks: { aim: 3 } }), 'picks'],
  ['points outside a part', SCHEME, judged({ picks: { x: 11 } }), 'picks'],
  ['a part that is not there', SCHEME, judged({ picks: { y: 1 } }), 'picks'],
  ['a label that is not there', SCALE, judged({ judgement: 'fine' }), 'judgement'],
  ['more than it is marked out of', DIRECT, judged({ mark: 21 }), 'mark'],
  ['half done', DONE, judged({ mark: 0.5 }), 'mark'],
])('%s is refused in its own field, whole or not', (_, on, of, field) => {
  expect(refusal(() => markSoFar(of, on))?.[0]).toBe(field)
  expect(refusal(() => markOf(of, { ...on, gapMeant: true }))?.[0]).toBe(field)
})

test('a gap that is meant gives nothing; where nothing can follow from it, it is still asked for', () => {
  expect(markOf(judged({ picks: { line: 6 } }), { ...RUBRIC, gapMeant: true }).mark).toBe(12)
  expect(refusal(() => markOf(judged(), { ...SCALE, gapMeant: true }))).toEqual(['judgement', 'Choose a label of the scale.'])
})

test('each kind of standard has one way that marks by it', () => {
  const kinds = MARKINGS.flatMap((m) => standardOf(m) ?? [])
  expect(kinds.map((kind) => standardOf(markingBy(kind)))).toEqual(kinds)
  expect(new Set(kinds).size).toBe(kinds.length)
})
