import { criteriaOf } from './criteria-of'

const level = (points: number, words: string, more = {}) => ({ points, words, ...more })

test('a rubric’s criteria give as much as their highest level or range; a name stands for its words', () => {
  const body = {
    criteria: [
      {
        id: 'line',
        title: 'Line',
        ranges: true,
        penalty: false,
        levels: [level(0, 'none'), level(4, 'all of it', { to: 6, name: 'full' })],
      },
      { id: 'late', title: 'Folded', ranges: false, penalty: true, levels: [level(0, 'no'), level(2, 'yes')] },
    ],
  }
  expect(criteriaOf({ kind: 'rubric', body })).toEqual([
    {
      id: 'line',
      title: 'Line',
      max: 6,
      penalty: false,
      levels: [
        { points: 0, to: null, words: 'none' },
        { points: 4, to: 6, words: 'full' },
      ],
    },
    expect.objectContaining({ id: 'late', max: 2, penalty: true }),
  ])
})

test('a mark scheme’s have no levels; a scale has none, and neither has nothing', () => {
  const body = { criteria: [{ id: 'ties', title: 'Ties', max: 7, words: '' }] }
  expect(criteriaOf({ kind: 'scheme', body })).toEqual([{ id: 'ties', title: 'Ties', max: 7, penalty: false, levels: [] }])
  expect(criteriaOf({ kind: 'scale', body: { labels: [] } as never })).toEqual([])
  expect(criteriaOf(null)).toEqual([])
})
