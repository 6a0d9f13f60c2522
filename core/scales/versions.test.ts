import fc from 'fast-check'
import {
  attachmentFindings,
  carryPicks,
  compareRubrics,
  resizeCriterion,
  rubricMark,
  rubricTotal,
  type Attached,
  type Criterion,
} from '#core/scales'

const criterion = (id: string, points: number[], more: Partial<Criterion> = {}): Criterion => ({
  id,
  title: id.toUpperCase(),
  ranges: false,
  penalty: false,
  levels: points.map((p, i) => ({ points: p, words: `level ${i}` })),
  ...more,
})
const A = criterion('a', [0, 2, 5])
const B = criterion('b', [0, 4])

describe('what a version changes', () => {
  test('nothing between a rubric and itself', () => expect(compareRubrics({ criteria: [A, B] }, { criteria: [A, B] })).toEqual([]))

  test('added, removed, changed; an added one above does not make the others move', () => {
    const c = criterion('c', [0, 1])
    const found = compareRubrics({ criteria: [A, B] }, { criteria: [c, { ...A, title: 'Alpha', penalty: true }] })
    expect(found.map((f) => [f.criterionId, f.kind])).toEqual([
      ['c', 'added'],
      ['a', 'changed'],
      ['b', 'removed'],
    ])
    expect(found[1]!.changes).toEqual(['was called A', 'is a penalty now'])
  })

  test('points, number of levels, ranges and words are said in figures', () => {
    const after = criterion('a', [0, 3, 5], { ranges: true })
    after.levels[1] = { points: 3, to: 4, words: 'another' }
    const [found] = compareRubrics({ criteria: [A] }, { criteria: [after] })
    expect(found!.changes).toEqual([
      'takes any point inside a level',
      'points 0 · 3–4 · 5, were 0 · 2 · 5',
      'level 2: “level 1” is “another”',
    ])
    expect(compareRubrics({ criteria: [A] }, { criteria: [criterion('a', [0, 5])] })[0]!.changes[0]).toBe('2 levels, was 3')
  })

  test('order alone', () => {
    const found = compareRubrics({ criteria: [A, B] }, { criteria: [B, A] })
    expect(found.map((f) => f.changes)).toEqual([['stands elsewhere'], ['stands elsewhere']])
  })
})

describe('picks carried over', () => {
  test('the same level, whatever it is worth now', () =>
    expect(carryPicks({ criteria: [A, B] }, { criteria: [criterion('a', [0, 6, 9]), B] }, { a: 2, b: 4 })).toEqual({
      picks: { a: 6, b: 4 },
      unjudged: [],
      nearest: [],
    }))

  test('another number of levels: the same words, else the nearest in proportion, the lower of two equally near', () => {
    const words = criterion('a', [0, 1, 4, 8])
    words.levels[2]!.words = 'level 1'
    words.levels[1]!.words = 'a new one'
    expect(carryPicks({ criteria: [A] }, { criteria: [words] }, { a: 2 }).picks).toEqual({ a: 4 })
    const silent = (points: number[]) => ({
      criteria: [{ ...criterion('a', points), levels: points.map((p) => ({ points: p, words: '' })) }],
    })
    expect(carryPicks(silent([0, 5, 10]), silent([0, 4, 6, 10]), { a: 5 }).picks).toEqual({ a: 4 })
    expect(carryPicks(silent([0, 5, 10]), silent([0, 10]), { a: 5 })).toEqual({ picks: { a: 0 }, unjudged: [], nearest: ['a'] })
  })

  test('what is new, was not judged, or was no level is not judged', () => {
    const to = { criteria: [A, B, criterion('c', [0, 1])] }
    expect(carryPicks({ criteria: [A, B] }, to, { a: 3 })).toEqual({ picks: {}, unjudged: ['a', 'b', 'c'], nearest: [] })
  })

  test('a place inside a range is kept, to a half point', () => {
    const from = criterion('a', [0, 4], { ranges: true })
    from.levels[0] = { points: 0, to: 3, words: 'low' }
    const to = criterion('a', [0, 8], { ranges: true })
    to.levels[0] = { points: 0, to: 7, words: 'low' }
    expect(carryPicks({ criteria: [from] }, { criteria: [to] }, { a: 1.5 }).picks).toEqual({ a: 3.5 })
    expect(carryPicks({ criteria: [from] }, { criteria: [{ ...to, ranges: false }] }, { a: 1.5 }).picks).toEqual({ a: 0 })
  })

  const rubric = fc
    .array(fc.uniqueArray(fc.integer({ min: 1, max: 20 }), { minLength: 1, maxLength: 5 }), { minLength: 1, maxLength: 5 })
    .map((lists) => ({ criteria: lists.map((l, i) => criterion(`c${i}`, [0, ...l.sort((a, b) => a - b)])) }))
  const picked = rubric.chain((r) =>
    fc.tuple(...r.criteria.map((c) => fc.nat(c.levels.length - 1))).map((at) => ({
      rubric: r,
      picks: Object.fromEntries(r.criteria.map((c, i) => [c.id, c.levels[at[i]!]!.points])),
    })),
  )

  test('to the same version nothing changes; to any other the picks are ones it takes', () => {
    fc.assert(
      fc.property(picked, rubric, ({ rubric: from, picks }, to) => {
        expect(carryPicks(from, from, picks)).toEqual({ picks, unjudged: [], nearest: [] })
        const { picks: carried, unjudged } = carryPicks(from, to, picks)
        expect(rubricTotal(to, carried).unjudged).toEqual(unjudged)
      }),
    )
  })

  test('to a version twice the size a mark stays what it was', () => {
    fc.assert(
      fc.property(picked, ({ rubric: from, picks }) => {
        const to = { criteria: from.criteria.map((c) => resizeCriterion(c, c.levels.at(-1)!.points * 2, null)) }
        expect(rubricMark(to, carryPicks(from, to, picks).picks, 60)).toBe(rubricMark(from, picks, 60))
      }),
    )
  })
})

describe('attached wrongly', () => {
  const standards = new Map(
    [
      { id: 'r1', title: 'Maps', version: 1, lineId: 'r1' },
      { id: 'r2', title: 'Maps', version: 2, lineId: 'r1' },
      { id: 'x', title: 'Posters', version: 1, lineId: 'x' },
    ].map((s) => [s.id, s]),
  )
  const at = (id: string, sectionIds: string[], standardId: string | null): Attached => ({
    assessmentId: id,
    title: id,
    componentId: 'c',
    outOf: 40,
    marking: 'rubric',
    sectionIds,
    standardId,
  })
  const found = (...all: Attached[]) => attachmentFindings(all, standards).map((f) => [f.kind, f.assessmentId, f.standardId])

  test('alike everywhere is quiet', () => expect(found(at('A', ['s1'], 'r1'), at('B', ['s2'], 'r1'))).toEqual([]))
  test('two versions of one', () =>
    expect(found(at('A', ['s1', 's2'], 'r2'), at('B', ['s1', 's2'], 'r1'))).toEqual([['other version', 'B', 'r2']]))
  test('one section’s by another, or by none', () => {
    expect(found(at('A', ['s1'], 'r1'), at('B', ['s2'], 'r1'), at('C', ['s3'], 'x'))).toEqual([['other standard', 'C', 'r1']])
    expect(found(at('A', ['s1'], 'r1'), at('B', ['s2'], 'r1'), at('C', ['s3'], null))).toEqual([['none here', 'C', 'r1']])
  })
  test('assessments for the same sections are not parts of one', () =>
    expect(found(at('A', ['s1'], 'r1'), at('B', ['s1'], 'x'))).toEqual([]))
})
