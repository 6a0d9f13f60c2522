import { createHash } from 'node:crypto'
import fc from 'fast-check'
import type { Criterion } from '../scales/rubric'
import { readCase, writeCase } from './case'
import { FileError, readDelimited, unguarded } from './delimited'
import { tablesFromHtml, tablesFromText } from './html-table'
import { readRubricSheet, rubricSheet, type SheetRubric } from './rubric-sheet'
import { guessLayout, levelsGoDown, pointsIn, rubricFromTable, turned } from './rubric-table'
import { withPoints } from './unscored'
import { writeDelimited } from './write-delimited'

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
  ['Excellent 4 points', 4, undefined, 'Excellent'],
  ['Excellent: 4', 4, undefined, 'Excellent'],
  ['Excellent = 4 pts', 4, undefined, 'Excellent'],
  ['Fair 2-3 marks', 2, 3, 'Fair'],
  ['4 pts', 4, undefined, ''],
  ['7,5', 7.5, undefined, ''],
])('points in “%s”', (text, points, to, words) => expect(pointsIn(text)).toEqual({ points, to, words }))
test('words alone have no points', () => {
  expect(pointsIn('names 3 sources')).toBeNull()
  expect(pointsIn('names all 3')).toBeNull()
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
  expect(layout).toMatchObject({ heading: 1, leftOut: [0, 3], points: 'heading' })
  const chosen = rubricFromTable(table, { ...layout, leftOut: [0, 3], levelColumns: [1, 2, 3] }, id)
  expect(chosen.map((c) => [c.title, c.levels.map((l) => `${l.points} ${l.words}`)])).toEqual([
    ['Purpose', ['0 none', '2 some', '5 all']],
    ['Relief', ['0 wrong', '2 right', '5 readable']],
  ])
  expect(rubricFromTable(table, { ...layout, heading: null, leftOut: [], points: 'none', levelColumns: [2] }, id)).toHaveLength(5)
})

describe('tables as people have them', () => {
  const shown = (table: string[][]) => read(table).map((c) => [c.title, c.levels.map((l) => `${l.points} ${l.name ?? ''}: ${l.words}`)])

  test('points in a row of their own, wherever it stands, and a total that is no criterion', () =>
    expect(
      shown([
        ['', 'Weak', 'Fair', 'Strong'],
        ['Voice', 'flat', 'some', 'rich'],
        ['Total', '', '', ''],
        ['Points', '0', '2,5', '5'],
      ]),
    ).toEqual([['Voice', ['0 Weak: flat', '2.5 Fair: some', '5 Strong: rich']]]))

  test('a column of what each criterion is worth at most: its levels are spread evenly up to it', () =>
    expect(
      shown([
        ['Criterion', 'Poor', 'Fair', 'Good', 'Max. points'],
        ['Aim', 'none', 'some', 'all', '10'],
        ['Line', 'shaky', 'mixed', 'steady', '4'],
        ['Total points', '', '', '', '14'],
      ]),
    ).toEqual([
      ['Aim', ['0 Poor: none', '5 Fair: some', '10 Good: all']],
      ['Line', ['0 Poor: shaky', '2 Fair: mixed', '4 Good: steady']],
    ]))

  test('levels downwards: the table is turned', () => {
    const down = [
      ['', 'Aim', 'Line'],
      ['Good (3)', 'all', 'steady'],
      ['Poor (1)', 'none', 'shaky'],
    ]
    expect([levelsGoDown(down), levelsGoDown(turned(down))]).toEqual([true, false])
    expect(shown(turned(down))).toEqual([
      ['Aim', ['1 Poor: none', '3 Good: all']],
      ['Line', ['1 Poor: shaky', '3 Good: steady']],
    ])
  })

  test('points below 0 are a penalty, with what each level takes off', () => {
    const [late] = read([
      ['', 'a', 'b', 'c'],
      ['Late', '0: in time', '-2: by a day', '−5: later'],
      ['Aim', '0: none', '2: some', '- three of them (4)'],
    ])
    expect([late!.penalty, late!.levels.map((l) => `${l.points} ${l.words}`)]).toEqual([true, ['0 in time', '2 by a day', '5 later']])
  })

  test('pasted as text, a cell in quotation marks keeps its line breaks', () =>
    expect(tablesFromText('\tPoor (1)\tGood (3)\nAim\t"no\naim"\tan "aim"\n')).toEqual([
      [
        ['', 'Poor (1)', 'Good (3)'],
        ['Aim', 'no\naim', 'an "aim"'],
      ],
    ]))
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

const name = fc.option(fc.constantFrom('good', 'not yet', '= best', '-1', "'-1", '@home', 'sehr gut'), { nil: undefined })
const whole: fc.Arbitrary<SheetRubric> = fc
  .tuple(
    rubric,
    fc.array(fc.record({ from: fc.integer({ min: 0, max: 100 }), words }), { maxLength: 3 }),
    fc.boolean(),
    fc.boolean(),
    fc.boolean(),
    name,
    name,
  )
  .map(([criteria, bands, descending, alike, ranges, called, comment]) => ({
    criteria: criteria.map((c, i) => ({
      ...c,
      ranges,
      ...(i === 0 && comment !== undefined ? { description: comment } : {}),
      levels: c.levels.map((l, at) => ({
        ...l,
        ...(ranges && at === 0 ? { to: l.points + 0.5 } : {}),
        ...(called === undefined ? {} : { name: called }),
        ...(comment === undefined ? {} : { comment }),
      })),
    })),
    ...(bands.length > 0 ? { bands } : {}),
    ...(descending ? { descending } : {}),
    ...(alike ? { alike } : {}),
  }))

test('written as CSV and read again, a rubric is the same: names, descriptions, comments, bands and order too', () =>
  fc.assert(
    fc.property(whole, (made) => {
      const { header, rows } = unguarded(readDelimited(writeDelimited(rubricSheet(made))))
      expect(readRubricSheet([header, ...rows.map((r) => r.cells)], id)).toEqual({ rubric: made, notes: [] })
    }),
  ))
test('what a sheet cannot hold it says', () => {
  const linked = { id: 'c1', title: 'Purpose', ranges: false, penalty: false, levels: [{ points: 0, words: '' }], outcomeIds: ['o'] }
  expect(readRubricSheet(rubricSheet({ criteria: [linked] }), id)!.notes).toEqual([
    'Links to outcomes are not in this file: the CASE file has them.',
  ])
})

test('names of levels are kept apart from their words, wherever the points are', () => {
  const levelsOf = (table: string[][]) => read(table)[0]!.levels
  expect(
    levelsOf([
      ['', 'Excellent (4)', 'Poor (0)'],
      ['Aim', 'all', 'none'],
    ]),
  ).toEqual([
    { points: 0, name: 'Poor', words: 'none' },
    { points: 4, name: 'Excellent', words: 'all' },
  ])
  expect(
    levelsOf([
      ['', 'Poor', 'Good'],
      ['Aim', '0 none', '3 all'],
    ]),
  ).toEqual([
    { points: 0, name: 'Poor', words: 'none' },
    { points: 3, name: 'Good', words: 'all' },
  ])
})
test('levels named best first get the most points unasked; where no name tells, somebody has to say', () => {
  const bestFirst = [
    ['', 'Excellent', 'Satisfactory', 'Poor'],
    ['Aim', 'all', 'some', 'none'],
  ]
  expect(guessLayout(bestFirst)).toMatchObject({ points: 'none', descending: true })
  expect(read(bestFirst)[0]!.levels.map((l) => [l.points, l.name])).toEqual([
    [0, 'Poor'],
    [1, 'Satisfactory'],
    [2, 'Excellent'],
  ])
  expect(
    guessLayout([
      ['', 'Poor', 'Good'],
      ['Aim', 'none', 'all'],
    ]).descending,
  ).toBe(false)
  expect(
    guessLayout([
      ['', 'Oak', 'Birch'],
      ['Aim', 'none', 'all'],
    ]).descending,
  ).toBeNull()
})

const stamp = {
  at: '2026-11-24T00:00:00+00:00',
  uuid: (x: string) =>
    createHash('sha1')
      .update(x)
      .digest('hex')
      .replace(/^(.{8})(.{4})(.{4})(.{4})(.{12}).*/, '$1-$2-$3-$4-$5'),
}
test('written as CASE and read again, a rubric is the same, ranges, penalties, names, bands and order too', () =>
  fc.assert(
    fc.property(whole, (made) => {
      const json = JSON.stringify(writeCase([{ ...made, id: 'r', title: 'Map' }], stamp))
      expect(readCase(json)).toEqual({
        rubrics: [{ ...made, title: 'Map', source: stamp.uuid('rubric r') }],
        outcomes: [],
        unknown: [],
        notes: [],
      })
    }),
  ))
test('in CASE of others a criterion’s weight counts, and what is scored below 0 is a penalty', () => {
  const levels = (scores: number[]) => scores.map((score, i) => ({ description: `level ${i}`, score, position: i + 1 }))
  const package_ = {
    CFRubrics: [
      {
        identifier: 'x',
        title: 'Theirs',
        CFRubricCriteria: [
          { category: 'Aim', description: 'Whom it is for', weight: 2.5, position: 1, CFRubricCriterionLevels: levels([0, 1, 2]) },
          { description: 'Late', weight: 1, position: 2, CFRubricCriterionLevels: levels([0, -3]) },
        ],
      },
    ],
  }
  const [theirs] = readCase(JSON.stringify(package_)).rubrics
  expect(theirs!.criteria.map((c) => [c.title, c.description, c.penalty, c.levels.map((l) => l.points)])).toEqual([
    ['Aim', 'Whom it is for', false, [0, 2.5, 5]],
    ['Late', undefined, true, [0, 3]],
  ])
})
test('items hang under their document, by which the package is known', () => {
  const outcome = { id: 'o', title: 'Reads', statement: 'Reads a map', levels: [], reached: 1, rule: {} }
  const made = writeCase([{ id: 'r', title: 'Map', criteria: [] }], { ...stamp, outcomes: [outcome] }) as {
    CFDocument: { identifier: string; CFPackageURI: { identifier: string } }
    CFItems: { identifier: string; CFDocumentURI: { identifier: string } }[]
    CFAssociations: { associationType: string; originNodeURI: { identifier: string }; destinationNodeURI: { identifier: string } }[]
  }
  const document = made.CFDocument.identifier
  expect(made.CFDocument.CFPackageURI.identifier).toBe(document)
  expect(made.CFItems[0]!.CFDocumentURI.identifier).toBe(document)
  expect(made.CFAssociations.map((a) => [a.associationType, a.originNodeURI.identifier, a.destinationNodeURI.identifier])).toEqual([
    ['isChildOf', made.CFItems[0]!.identifier, document],
  ])
})
describe('outcomes by themselves, with the groups that they stand in', () => {
  const word = fc.constantFrom('Field', 'Level', 'Draw', 'A › B', '"quoted"', '図', 'a\\nb')
  const outcome = fc.record({ title: word, group: fc.array(word, { maxLength: 4 }), reached: fc.integer({ min: 1, max: 2 }) })

  test('come back as what they were, each in its place of the tree', () =>
    fc.assert(
      fc.property(fc.array(outcome, { minLength: 1, maxLength: 8 }), (list) => {
        const levels = ['with help', 'alone'].map((label) => ({ label, words: `${label} in words` }))
        const outcomes = list.map(({ group, ...o }, i) => ({
          ...o,
          id: `o${i}`,
          statement: `${o.title} in full`,
          levels,
          rule: { kind: 'latest' },
          ...(group.length > 0 && { group }),
        }))
        const read = readCase(JSON.stringify(writeCase([], { ...stamp, outcomes })))
        expect(read.rubrics).toEqual([])
        expect(read.outcomes).toEqual(outcomes.map((o) => ({ ...o, id: stamp.uuid(`outcome ${o.id}`) })))
      }),
    ))

  test('a group stands once, under the one around it, and outermost ones and what has none under the document', () => {
    const one = (id: string, group?: string[]) => ({
      id,
      title: id,
      statement: id,
      levels: [],
      reached: 1,
      rule: {},
      ...(group && { group }),
    })
    const made = writeCase([], { ...stamp, outcomes: [one('a', ['Field', 'Level']), one('b', ['Field']), one('c')] }) as {
      CFItems: { identifier: string; fullStatement: string }[]
      CFAssociations: { originNodeURI: { identifier: string }; destinationNodeURI: { identifier: string } }[]
      CFDocument: { identifier: string }
    }
    const called = new Map([[made.CFDocument.identifier, 'document'], ...made.CFItems.map((i) => [i.identifier, i.fullStatement] as const)])
    const tree = made.CFAssociations.map((a) => [a.originNodeURI, a.destinationNodeURI].map((n) => called.get(n.identifier)).join(' in '))
    expect(tree).toEqual(['Field in document', 'Level in Field', 'a in Level', 'b in Field', 'c in document'])
  })

  test('a tree of other people: what others stand in is a group; a ring of them comes to an end', () => {
    const item = (identifier: string, fullStatement: string) => ({ identifier, fullStatement })
    const child = (of: string, under: string) => ({
      associationType: 'isChildOf',
      originNodeURI: { identifier: of },
      destinationNodeURI: { identifier: under },
    })
    const file = {
      CFItems: [item('s', 'Surveying'), item('t', 'Traverses'), item('u', 'Closes a traverse'), item('x', 'Round'), item('y', 'And round')],
      CFAssociations: [child('t', 's'), child('u', 't'), child('x', 'y'), child('y', 'x'), child('s', 'nowhere')],
    }
    expect(readCase(JSON.stringify(file)).outcomes.map((o) => [o.title, o.group])).toEqual([
      ['Closes a traverse', ['Surveying', 'Traverses']],
    ])
  })
})
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

test('in CASE of others a level without a score is named, not 0, and stays in its place; an item that the file lacks is named', () => {
  const level = (description: string, score?: number | string | null) => ({ description, ...(score === undefined ? {} : { score }) })
  const { rubrics, unknown, outcomes } = readCase(
    JSON.stringify({
      CFItems: [{ identifier: 'i1', fullStatement: 'Closes a loop' }],
      CFRubrics: [
        {
          title: 'Walks',
          CFRubricCriteria: [
            { category: 'Aim', CFRubricCriterionLevels: [level('clear', 3), level('vague'), level('none', null), level('zero', 0)] },
            { category: 'Line', CFItemURI: { identifier: 'i1' }, CFRubricCriterionLevels: [level('steady', 2), level('shaky', '1')] },
            { category: 'Loop', CFItemURI: { title: 'Levels', identifier: 'i9' }, CFRubricCriterionLevels: [level('x', 1)] },
          ],
        },
      ],
    }),
  )
  expect(rubrics[0]!.unscored).toEqual([
    { criterion: 0, level: 1 },
    { criterion: 0, level: 2 },
  ])
  expect(rubrics[0]!.criteria.map((c) => c.levels.map((l) => l.words))).toEqual([
    ['clear', 'vague', 'none', 'zero'],
    ['shaky', 'steady'],
    ['x'],
  ])
  expect([unknown, outcomes.map((o) => o.title)]).toEqual([[{ id: 'i9', title: 'Levels', criterion: 'Loop' }], ['Closes a loop']])
  const given = withPoints(rubrics[0]!.criteria, rubrics[0]!.unscored!, { '0/1': 2, '0/2': 1 })
  expect(given[0]!.levels.map((l) => [l.points, l.words])).toEqual([
    [0, 'zero'],
    [1, 'none'],
    [2, 'vague'],
    [3, 'clear'],
  ])
})
