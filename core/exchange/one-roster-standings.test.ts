import { strFromU8, unzipSync } from 'fflate'
import { parse } from 'csv-parse/sync'
import type { OutcomeStanding } from '../outcomes'
import { oneRosterStandings } from './one-roster-standings'

const outcomes = [
  { id: 'closes', title: 'Closes', levels: ['with help', 'alone', 'for others'], reached: 2, rule: { kind: 'latest' as const } },
  { id: 'draws', title: 'Draws', levels: ['not yet', 'yes'], reached: 2, rule: { kind: 'latest' as const } },
]
const at = (level: number | null, results = 1): OutcomeStanding =>
  ({ level, reached: level !== null && level > 1, results, history: [] }) as never
const rows = [
  { studentId: 's1', sectionId: 'east', standings: [at(3), at(null, 1)] },
  { studentId: 's2', sectionId: 'east', standings: [at(1), at(null, 0)] },
  { studentId: 's3', sectionId: 'west', standings: [at(2), at(2)] },
]
const files = unzipSync(
  oneRosterStandings(outcomes, rows, {
    course: { id: 'c', code: 'CFS 1', title: 'Field Mapping', term: 'autumn', firstDay: '2026-09-07', lastDay: '2026-12-18' },
    at: '2026-11-28T10:00:00.000Z',
    numberOf: new Map([['s1', 'N-1']]),
    classOf: (id: string) => id,
    identifierOf: (id) => `urn-${id}`,
  }),
)
const sheet = (name: string) => parse(strFromU8(files[name]!), { columns: true }) as Record<string, string>[]

test('every standing is a result on the line item of its section, with the level and its label', () => {
  expect(sheet('results.csv').map((r) => [r.studentSourcedId, r.lineItemSourcedId, r.score, r.textScore, r.scoreStatus])).toEqual([
    ['N-1', 'c-outcome-closes-east', '3', 'for others', 'fully graded'],
    ['N-1', 'c-outcome-draws-east', '', '', 'partially graded'],
    ['s2', 'c-outcome-closes-east', '1', 'with help', 'fully graded'],
    ['s3', 'c-outcome-closes-west', '2', 'alone', 'fully graded'],
    ['s3', 'c-outcome-draws-west', '2', 'yes', 'fully graded'],
  ])
})

test('line items stand once, say the levels, and are in the one category', () => {
  const items = sheet('lineItems.csv')
  expect(items.map((i) => [i.sourcedId, i.resultValueMax, i.categorySourcedId])).toEqual([
    ['c-outcome-closes-east', '3', 'c-category-outcomes'],
    ['c-outcome-draws-east', '2', 'c-category-outcomes'],
    ['c-outcome-closes-west', '3', 'c-category-outcomes'],
    ['c-outcome-draws-west', '2', 'c-category-outcomes'],
  ])
  expect(items[0]!.description).toBe('1 with help, 2 alone (reached), 3 for others')
})

test('line items and results carry the identifier that the outcome has in CASE, and the manifest says what is sent', () => {
  const own = (name: string, key: string) => sheet(name).map((r) => [r[key], r.source, r.learningObjectiveId])
  expect(own('lineItemLearningObjectiveIds.csv', 'lineItemSourcedId')).toContainEqual(['c-outcome-draws-west', 'case', 'urn-draws'])
  expect(own('resultLearningObjectiveIds.csv', 'resultSourcedId')).toHaveLength(5)
  const manifest = new Map(sheet('manifest.csv').map((r) => [r.propertyName, r.value]))
  expect(['results', 'resultLearningObjectiveIds', 'users'].map((n) => manifest.get(`file.${n}`))).toEqual(['bulk', 'bulk', 'absent'])
})
