import { createHash } from 'node:crypto'
import fc from 'fast-check'
import { anyRubric } from '../testing/rubrics'
import { readCase, writeCase } from './case'
import { FileError } from './delimited'
import { withPoints } from './unscored'

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
    fc.property(anyRubric, (made) => {
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
