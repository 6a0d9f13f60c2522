import { criterionFigures } from './criterion-figures'
import type { Rubric } from './rubric'

const level = (points: number, to?: number) => ({ points, words: '', ...(to === undefined ? {} : { to }) })
const RUBRIC: Rubric = {
  criteria: [
    { id: 'aim', title: 'Aim', ranges: false, penalty: false, levels: [level(0), level(2), level(4)] },
    { id: 'line', title: 'Line', ranges: true, penalty: false, levels: [level(0, 3), level(4, 8)] },
    { id: 'late', title: 'Late', ranges: false, penalty: true, levels: [level(0), level(2)] },
  ],
}

test('how often each level was given, zeros shown, and what share of the most came of it', () => {
  const [aim, line] = criterionFigures(RUBRIC, [
    { aim: 4, line: 3.5, late: 0 },
    { aim: 4, line: 8, late: 0 },
    { aim: 2, line: 2 },
    { line: 6, late: 2 },
  ])
  expect(aim).toMatchObject({ n: 3, levels: [0, 1, 2], unused: [0], mean: expect.closeTo(10 / 12, 9) })
  // 3.5 lies between the ranges: it counts, and belongs to no level.
  expect(line).toMatchObject({ n: 4, levels: [1, 2], unused: [], mean: expect.closeTo(19.5 / 32, 9) })
})

test('what goes with the rest and what does not: against the total of the others, with what is taken off taken off', () => {
  const aims = [0, 2, 4, 4, 2]
  const lines = [1, 3, 8, 7, 4]
  const lates = [2, 2, 0, 0, 2]
  const figures = criterionFigures(
    RUBRIC,
    aims.map((aim, i) => ({ aim, line: lines[i]!, late: lates[i]! })),
  )
  const pearson = (a: number[], b: number[]) => {
    const mean = (v: number[]) => v.reduce((s, x) => s + x, 0) / v.length
    const cov = (p: number[], q: number[]) => p.reduce((s, x, i) => s + (x - mean(p)) * (q[i]! - mean(q)), 0)
    return cov(a, b) / Math.sqrt(cov(a, a) * cov(b, b))
  }
  expect(figures[0]!.withOthers).toBeCloseTo(
    pearson(
      aims,
      lines.map((x, i) => x - lates[i]!),
    ),
    9,
  )
  expect(figures[2]!.withOthers).toBeCloseTo(
    pearson(
      lates.map((x) => -x),
      lines.map((x, i) => x + aims[i]!),
    ),
    9,
  )
})

test('where nothing varies or nothing was judged there is no correlation and no mean', () => {
  expect(
    criterionFigures(RUBRIC, [
      { aim: 2, line: 3, late: 0 },
      { aim: 2, line: 5, late: 0 },
    ])[0]!.withOthers,
  ).toBeNull()
  expect(criterionFigures(RUBRIC, [])[0]).toMatchObject({
    n: 0,
    mean: null,
    sd: null,
    withOthers: null,
    levels: [0, 0, 0],
    unused: [0, 1, 2],
  })
})
