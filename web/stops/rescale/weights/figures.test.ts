import { smallState, smallTable } from '../../../testing/small-course'
import { weightsFigures } from './figures'

/** The paper tells people apart, the essay hardly does; both should carry half. */
const TABLE = smallTable([
  ['ada', 'paper', 38],
  ['bo', 'paper', 22],
  ['cy', 'paper', 12],
  ['di', 'paper', 30],
  ['ada', 'essay', 14],
  ['bo', 'essay', 13],
  ['cy', 'essay', 13.5],
  ['di', 'essay', 14.5],
])

test('what it should carry stands beside what it decides, and the one farthest off is looked at', () => {
  const { rows, chosen, finals } = weightsFigures(smallState(TABLE), null)
  expect(finals).toBe(4)
  expect(rows.map((r) => [r.id, r.should, r.off])).toEqual([
    ['paper', 0.5, true],
    ['essay', 0.5, true],
  ])
  expect(rows[0]!.decides! + rows[1]!.decides!).toBeCloseTo(1, 12)
  expect(rows[0]!.decides).toBeGreaterThan(0.9)
  expect(chosen!.row.id).toBe('paper')
})

test('what is offered brings it nearer, and says what it would come to', () => {
  const { offers, row } = weightsFigures(smallState(TABLE), 'paper').chosen!
  expect(offers.length).toBeGreaterThan(0)
  for (const o of offers) {
    expect(o.changes.length).toBeGreaterThan(0)
    expect(Math.abs(o.decides! - 0.5)).toBeLessThan(Math.abs(row.decides! - 0.5))
  }
  const weigh = offers.find((o) => o.words.startsWith('Weigh'))!
  const weights = weigh.changes.flatMap((c) => (c.kind === 'weigh' ? c.weight : []))
  expect(weights.reduce((a, b) => a + b, 0)).toBe(100)
})

test('a section whose plan carries something else is named, with what it lacks', () => {
  const fewer = { ...TABLE, placements: TABLE.placements.filter((p) => !(p.assessmentId === 'essay' && p.sectionId === 'west')) }
  const { odd, rows } = weightsFigures(smallState(fewer), null)
  expect(odd.map((s) => [s.name, s.lacks])).toEqual([['West', ['essay']]])
  expect(rows[0]!.elsewhere).toEqual([{ sectionId: 'west', name: 'West', share: 1 }])
})

test('with nobody final nothing is decided, and nothing is called off', () => {
  const { rows, finals } = weightsFigures(
    smallState(
      smallTable([
        ['ada', 'paper', 10],
        ['ada', 'essay', null],
      ]),
    ),
    null,
  )
  expect([finals, rows.map((r) => [r.decides, r.off])]).toEqual([
    0,
    [
      [null, false],
      [null, false],
    ],
  ])
})
