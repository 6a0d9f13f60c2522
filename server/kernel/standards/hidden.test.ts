import type { StandardInUse } from '#contract'
import { picksMeant, picksShown, shownOf } from './hidden'

const rubric: StandardInUse = {
  kind: 'rubric',
  id: 'r',
  title: 'Map',
  version: 1,
  body: {
    bands: [{ from: 40, words: 'SOUND' }],
    criteria: [
      {
        id: 'aim',
        title: 'Aim',
        description: 'WHOM-FOR',
        ranges: true,
        penalty: false,
        levels: [
          { points: 0, to: 2, name: 'NOT-YET', words: 'NONE' },
          { points: 17.5, to: 19, name: 'DONE', words: 'ALL', comment: 'WELL' },
        ],
      },
    ],
  },
}
const POINTS = { hidePoints: true, hideWords: false }
const WORDS = { hidePoints: false, hideWords: true }

test('hidden points are not in what is sent, nor in the picks, and levels stay in their order', () => {
  const sent = JSON.stringify(shownOf(rubric, POINTS))
  expect(sent).not.toMatch(/17\.5|19|"to"/)
  expect(sent).toMatch(/NONE.*ALL/)
  expect(picksShown(rubric, { aim: 18 }, POINTS)).toEqual({ aim: 1 })
  expect(picksShown(rubric, { aim: 18 }, WORDS)).toEqual({ aim: 18 })
})

test('what comes back by place is points again; inside a range it stays where the level did not change', () => {
  expect(picksMeant(rubric, { aim: 1 }, POINTS)).toEqual({ aim: 17.5 })
  expect(picksMeant(rubric, { aim: 1 }, POINTS, { aim: 18.5 })).toEqual({ aim: 18.5 })
  expect(picksMeant(rubric, { aim: 0 }, POINTS, { aim: 18.5 })).toEqual({ aim: 0 })
  expect(picksMeant(rubric, { aim: 9 }, POINTS)).toEqual({ aim: -1 })
})

test('hidden words are not in what is sent: names, descriptions, comments and bands neither', () => {
  expect(JSON.stringify(shownOf(rubric, WORDS))).not.toMatch(/NONE|ALL|NOT-YET|DONE|WELL|WHOM-FOR|SOUND/)
  expect(shownOf(rubric, { hidePoints: false, hideWords: false })).toEqual(rubric)
})

test('a scale keeps its labels in their order without their percents', () => {
  const scale: StandardInUse = {
    kind: 'scale',
    id: 's',
    title: 'Viva',
    version: 1,
    body: { labels: [{ label: 'sound', percent: 62.5, threshold: 55 }] },
  }
  expect(JSON.stringify(shownOf(scale, POINTS))).not.toMatch(/62\.5|55/)
})
