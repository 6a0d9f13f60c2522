import type { Plan } from '#contract'
import { dateFindings, grouped, openFindings, sumFindings } from './plan-findings'

const section = (id: string, name: string, weekdays: number[]) => ({
  id,
  code: id,
  name,
  teacher: null,
  weekdays,
  firstDay: null,
  students: 3,
})
const assessment = (id: string, title: string, more: object = {}) =>
  ({
    id,
    componentId: 'k',
    title,
    marking: 'direct',
    outOf: 10,
    worth: 10,
    counts: true,
    passMark: null,
    ...more,
  }) as Plan['assessments'][number]
const plan = (placements: Plan['placements'], more: Partial<Plan> = {}): Plan => ({
  head: { id: 'c', firstDay: '2026-09-07', lastDay: '2026-12-18' } as Plan['head'],
  version: 1,
  hasMarks: false,
  policy: {} as Plan['policy'],
  boundaries: [],
  conditions: [],
  sections: [section('s', 'Alidade', [1]), section('t', 'Groma', [2]), section('u', 'Octant', [3])],
  components: [{ id: 'k', weight: 100 } as Plan['components'][number]],
  assessments: [assessment('a', 'Pacing'), assessment('b', 'Levelling')],
  away: [],
  releases: [{ kind: 'confirmed' }],
  placements,
  leftOut: {},
  accepted: [],
  ...more,
})
const GOOD: Plan['placements'] = [
  [0, 0, '2026-10-05', 0],
  [0, 1, '2026-10-06', 0],
  [0, 2, '2026-10-07', 0],
  [1, 0, '2026-10-12', 0],
  [1, 1, '2026-10-13', 0],
  [1, 2, '2026-10-14', 0],
]

test('a plan in order has nothing to look at', () => expect(openFindings(plan(GOOD))).toEqual({ plan: 0, placements: 0 }))

test('findings of one kind about one assessment are one thing to look at, the gravest first', () => {
  const p = plan([
    [0, 0, '2026-10-10', 0],
    [0, 1, '2026-10-10', 0],
    [0, 2, '2026-10-10', 0],
    [1, 0, '2027-01-04', 0],
  ])
  const groups = grouped(dateFindings(p).open, p)
  expect(groups.map((g) => [g.kind, g.findings.length, g.message])).toEqual([
    ['outside the term', 1, 'Levelling in Alidade is due 4 Jan 2027, outside the term.'],
    ['weekend', 3, 'Pacing is due on a weekend in Alidade, Groma, Octant.'],
    ['not set', 2, 'Levelling is not set for Groma, Octant.'],
  ])
  expect(openFindings(p).placements).toBe(3)
})

test('what somebody let stand is quiet until its date changes', () => {
  const odd: Plan['placements'] = [...GOOD.slice(0, 5), [1, 2, '2026-10-17', 0]]
  const [finding] = dateFindings(plan(odd)).open
  const accepted = [{ key: finding!.key, reason: 'a field day', by: 'Ines', at: '2026-11-01T00:00:00.000Z' }]
  const quiet = dateFindings(plan(odd, { accepted }))
  expect(quiet.open).toEqual([])
  expect(quiet.accepted.map((f) => f.key)).toEqual([finding!.key])
  const moved: Plan['placements'] = [...GOOD.slice(0, 5), [1, 2, '2026-10-18', 0]]
  expect(dateFindings(plan(moved, { accepted })).open).toHaveLength(1)
})

test('weights, worths and pass marks count as things to look at in the plan', () => {
  const p = plan(GOOD, {
    components: [{ id: 'k', weight: null } as Plan['components'][number]],
    assessments: [assessment('a', 'Pacing', { worth: null }), assessment('b', 'Levelling', { passMark: 12 })],
  })
  expect(openFindings(p).plan).toBe(3)
})

test('sums that cannot be meant are said: all dropped, more dropped than may be, done or not out of 20', () => {
  const component = (id: string, dropLowest: number) => ({ id, dropLowest }) as Plan['components'][number]
  const assessment = (id: string, componentId: string, more: object = {}) =>
    ({ id, componentId, counts: true, bonus: false, droppable: true, marking: 'direct', outOf: 20, ...more }) as Plan['assessments'][number]
  const found = sumFindings({
    components: [component('all', 2), component('some', 2), component('fine', 1)],
    assessments: [
      assessment('a', 'all'),
      assessment('b', 'all'),
      assessment('c', 'some'),
      assessment('d', 'some', { droppable: false }),
      assessment('e', 'some', { droppable: false }),
      assessment('f', 'fine'),
      assessment('g', 'fine', { marking: 'completion' }),
      assessment('h', 'fine', { marking: 'completion', outOf: 1 }),
    ],
  })
  expect(Object.fromEntries(found)).toEqual({
    all: 'It drops 2 of 2, which would leave nothing: at most 1 are dropped.',
    some: 'It drops 2, and only 1 of its assessments may be dropped.',
    g: 'Done or not, out of 20: done gives all 20, and nothing between can be given.',
  })
})
