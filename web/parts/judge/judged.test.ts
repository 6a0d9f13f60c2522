import type { StandardInUse } from '#contract'
import { levelAt, markFor, NOTHING_JUDGED, unjudged } from './judged'

const head = { id: 's', title: 'Standard', version: 1 }
const level = (points: number, to?: number) => ({ points, words: `from ${points}`, ...(to === undefined ? {} : { to }) })
const rubric: StandardInUse = {
  ...head,
  kind: 'rubric',
  body: {
    criteria: [
      { id: 'a', title: 'Aim', ranges: true, penalty: false, levels: [level(0, 3), level(4, 8)] },
      { id: 'b', title: 'Late', ranges: false, penalty: true, levels: [level(0), level(2)] },
    ],
  },
}
const scheme: StandardInUse = { ...head, kind: 'scheme', body: { criteria: [{ id: 'x', title: 'Sums', max: 10, words: '' }] } }
const scale: StandardInUse = { ...head, kind: 'scale', body: { labels: [{ label: 'sound', percent: 62, threshold: 50 }] } }
const judged = (more: object) => ({ ...NOTHING_JUDGED, ...more })

test('no mark follows while something is not judged, and what is not is named', () => {
  expect(unjudged(rubric, NOTHING_JUDGED)).toEqual(['Aim', 'Late'])
  expect(unjudged(rubric, judged({ picks: { a: 0 } }))).toEqual(['Late'])
  expect(markFor(rubric, judged({ picks: { a: 8 } }), 20)).toBeNull()
  expect([unjudged(scale, NOTHING_JUDGED), unjudged(scheme, NOTHING_JUDGED), unjudged(null, NOTHING_JUDGED)]).toEqual([
    ['the judgement'],
    ['Sums'],
    ['the mark'],
  ])
})

test('the mark is scaled to what the assessment is marked out of; a judgement by its percent, a mark as it is', () => {
  expect(markFor(rubric, judged({ picks: { a: 6.5, b: 2 } }), 20)).toBe(11.25)
  expect(markFor(scheme, judged({ picks: { x: 4 } }), 25)).toBe(10)
  expect(markFor(scale, judged({ judgement: 'sound', picks: { x: 1 } }), 50)).toBe(31)
  expect(markFor(scale, judged({ mark: 40 }), 50)).toBeNull()
  expect(markFor(null, judged({ mark: 7 }), 50)).toBe(7)
  expect(unjudged(rubric, judged({ picks: { a: 6.5, b: 0 } }))).toEqual([])
})

test('the level that points lie in', () => {
  expect([0, 3, 4, 7.5, 8].map((p) => levelAt(rubric, 'a', p))).toEqual([0, 0, 1, 1, 1])
  expect([levelAt(rubric, 'a', 3.5), levelAt(rubric, 'none', 1), levelAt(scheme, 'x', 1), levelAt(null, 'a', 1)]).toEqual([
    null,
    null,
    null,
    null,
  ])
})
