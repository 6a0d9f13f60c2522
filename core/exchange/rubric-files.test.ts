import { createHash } from 'node:crypto'
import fc from 'fast-check'
import type { Criterion } from '../scales/rubric'
import { readCase, writeCase } from './case'
import { FileError } from './delimited'
import { tablesFromHtml } from './html-table'
import { guessLayout, pointsIn, rubricFromTable, tableFromRubric } from './rubric-table'

const id = (nth: number) => `c${nth + 1}`
const read = (table: string[][]) => rubricFromTable(table, guessLayout(table), id)

test.each([
  ['4', 4, undefined, ''],
  ['4: clear', 4, undefined, 'clear'],
  ['(3) clear', 3, undefined, 'clear'],
  ['3 points – clear', 3, undefined, 'clear'],
  ['0–3.5: traced', 0, 3.5, 'traced'],
  ['6-4 pts clear', 4, 6, 'clear'],
  ['clear (2,5 points)', 2.5, undefined, 'clear'],
  ['clear – 2', 2, undefined, 'clear'],
  ['5\nclear', 5, undefined, 'clear'],
])('points in “%s”', (text, points, to, words) => expect(pointsIn(text)).toEqual({ points, to, words }))
test('words alone have no points', () => {
  expect(pointsIn('names 3 sources')).toBeNull()
  expect(pointsIn('')).toBeNull()
})

test('a table with points in its heading, best first', () => {
  const rubric = read([
    ['', 'Excellent (4)', 'Good (3)', 'Poor (0)'],
    ['Purpose', 'serves the reader', 'a reader is named', 'no reader'],
    ['Sources', 'complete', 'incomplete', 'missing'],
  ])
  expect(rubric.map((c) => [c.title, c.levels.map((l) => [l.points, l.words])])).toEqual([
    [
      'Purpose',
      [
        [0, 'no reader'],
        [3, 'a reader is named'],
        [4, 'serves the reader'],
      ],
    ],
    [
      'Sources',
      [
        [0, 'missing'],
        [3, 'incomplete'],
        [4, 'complete'],
      ],
    ],
  ])
})

test('a table with points in its cells, unequal and with ranges; one without points', () => {
  const [purpose, relief] = read([
    ['Criterion', 'Low', 'High'],
    ['Purpose', '0–2 none', '3–8 all of it'],
    ['Relief', '0 wrong', '10 right'],
  ])
  expect(purpose).toMatchObject({
    ranges: true,
    levels: [
      { points: 0, to: 2, words: 'none' },
      { points: 3, to: 8, words: 'all of it' },
    ],
  })
  expect(relief).toMatchObject({
    ranges: false,
    levels: [
      { points: 0, words: 'wrong' },
      { points: 10, words: 'right' },
    ],
  })
  expect(
    read([
      ['', 'Weak', 'Fair', 'Strong'],
      ['Voice', 'flat', 'some', 'rich'],
    ])[0]!.levels.map((l) => l.points),
  ).toEqual([0, 1, 2])
})

test('a heading under a caption, with its points in a row of their own; rows and columns left out', () => {
  const table = [
    ['Part', 'Below', 'At', 'Above', 'Notes'],
    ['Part', '0', '2', '5', '9'],
    ['Purpose', 'none', 'some', 'all', 'ask the panel'],
    ['Sum', '', '', '', ''],
    ['Relief', 'wrong', 'right', 'readable', ''],
  ]
  const layout = guessLayout(table)
  expect(layout).toMatchObject({ heading: 1, leftOut: [0], points: 'heading' })
  const chosen = rubricFromTable(table, { ...layout, leftOut: [0, 3], levelColumns: [1, 2, 3] }, id)
  expect(chosen.map((c) => [c.title, c.levels.map((l) => `${l.points} ${l.words}`)])).toEqual([
    ['Purpose', ['0 none', '2 some', '5 all']],
    ['Relief', ['0 wrong', '2 right', '5 readable']],
  ])
  expect(rubricFromTable(table, { ...layout, heading: null, leftOut: [], points: 'none', levelColumns: [2] }, id)).toHaveLength(5)
})

const words = fc
  .array(fc.constantFrom('clear', 'shed', 'map', 'relief,', '“quoted”', 'a;b', 'λ', '地図', 'مرحبا', '🗺️'), { minLength: 1, maxLength: 5 })
  .map((w) => w.join(' '))
const criterion = (nth: number) =>
  fc
    .record({
      title: words,
      penalty: fc.boolean(),
      levels: fc.uniqueArray(fc.record({ points: fc.integer({ min: 0, max: 40 }).map((x) => x / 2), words }), {
        minLength: 2,
        maxLength: 6,
        selector: (l) => l.points,
      }),
    })
    .map((c): Criterion => ({ ...c, id: id(nth), ranges: false, levels: c.levels.sort((a, b) => a.points - b.points) }))
const rubric = fc.integer({ min: 1, max: 5 }).chain((n) => fc.tuple(...Array.from({ length: n }, (_, i) => criterion(i))))

test('written as a table and read again, a rubric is the same', () =>
  fc.assert(fc.property(rubric, (criteria) => expect(read(tableFromRubric(criteria))).toEqual(criteria))))

const stamp = {
  at: '2026-11-24T00:00:00+00:00',
  uuid: (x: string) =>
    createHash('sha1')
      .update(x)
      .digest('hex')
      .replace(/^(.{8})(.{4})(.{4})(.{4})(.{12}).*/, '$1-$2-$3-$4-$5'),
}
test('written as CASE and read again, a rubric is the same, ranges and penalties too', () =>
  fc.assert(
    fc.property(rubric, fc.boolean(), (criteria, ranges) => {
      const made = criteria.map((c) => ({
        ...c,
        ranges,
        levels: c.levels.map((l, i) => (ranges && i === 0 ? { ...l, to: l.points + 0.5 } : l)),
      }))
      const json = JSON.stringify(writeCase([{ id: 'r', title: 'Map', criteria: made }], stamp))
      expect(readCase(json)).toEqual({ rubrics: [{ title: 'Map', criteria: made }], outcomes: [] })
    }),
  ))
test('what is no CASE gets a sentence', () => {
  expect(() => readCase('{')).toThrow('This is not JSON')
  expect(() => readCase('{"CFItems":[]}')).toThrow('holds no rubric')
  expect(() => readCase('null')).toThrow(FileError)
})

describe('tables in HTML', () => {
  test('cells that span others stand in all of them; nested tables are text', () =>
    expect(
      tablesFromHtml(
        '<p>x</p><table><tr><th rowspan=2>Purpose<th colspan=2>Levels</tr><tr><td>no<td>yes</tr><tr><td>Style</td><td><table><tr><td>a</td></tr></table></td><td>b<br>c</td></tr></table>',
      ),
    ).toEqual([
      [
        ['Purpose', 'Levels', 'Levels'],
        ['Purpose', 'no', 'yes'],
        ['Style', 'a', 'b\nc'],
      ],
    ]))
  test('scripts and styles leave nothing', () => {
    const html =
      '<table><tr><td>A<script>alert(1)</script><style>x{}</style></td><td onclick="x()"><img src=x onerror=alert(1)>B</td></tr></table>'
    expect(tablesFromHtml(html)).toEqual([[['A', 'B']]])
  })
  test('a table that spans without end, 5,000 rows, broken markup: bounded and quiet', () => {
    const wide = tablesFromHtml('<table><tr><td colspan=999999 rowspan=999999>x</td></tr><tr><td>y</table>')
    expect(wide[0]![0]).toHaveLength(100)
    expect(tablesFromHtml(`<table>${'<tr><td>a<td>b'.repeat(5000)}`)[0]).toHaveLength(500)
    expect(() => tablesFromHtml('x'.repeat(2_000_001))).toThrow('over 2 million characters')
    fc.assert(
      fc.property(
        fc.array(
          fc.constantFrom('<table>', '</table>', '<tr>', '<td rowspan=3>', '<th>', '</td>', 'x', '<script>', '</script>', '&amp;', '<!--'),
          { maxLength: 40 },
        ),
        (parts) => {
          for (const table of tablesFromHtml(parts.join(''))) for (const row of table) expect(row.length).toBeLessThanOrEqual(100)
        },
      ),
    )
  })
})
