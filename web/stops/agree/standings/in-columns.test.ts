import fc from 'fast-check'
import { outcomeStanding, standingsTable, type Outcome, type OutcomeRule } from '#core/outcomes'
import { standingsFrom, standingsInColumns } from './in-columns'

const levels = fc.integer({ min: 1, max: 5 })
const evidence = fc.array(fc.record({ level: levels, day: fc.constantFrom('2026-09-14', '2026-10-05', null) }), { maxLength: 6 })
const rule = fc.constantFrom<OutcomeRule>(
  { kind: 'mean' },
  { kind: 'latest' },
  { kind: 'recent', alpha: 0.65 },
  { kind: 'times', times: 2, of: 3 },
  { kind: 'times', times: 1, of: null },
)

test('standings come out of the columns as they went in', () => {
  fc.assert(
    fc.property(
      fc.array(rule, { maxLength: 3 }),
      fc.array(fc.array(evidence, { minLength: 3, maxLength: 3 }), { maxLength: 5 }),
      (rules, all) => {
        const outcomes = rules.map((r, k): Outcome => ({
          id: String(k),
          title: '',
          levels: ['a', 'b', 'c', 'd', 'e'],
          reached: 3,
          rule: r,
        }))
        const students = all.map((_, i) => ({ id: `s${i}`, sectionId: `section ${i % 2}` }))
        const rows = standingsTable(students, outcomes, (id, k) => all[Number(id.slice(1))]![Number(k)]!)
        expect(standingsFrom(structuredClone(standingsInColumns(rows)))).toEqual(rows)
      },
    ),
    { seed: 17 },
  )
})

test('nobody, and nothing that anybody stands on', () => {
  expect(standingsFrom(standingsInColumns([]))).toEqual([])
  const rows = [{ studentId: 'a', sectionId: 's', standings: [] }]
  expect(standingsFrom(standingsInColumns(rows))).toEqual(rows)
  const none = { studentId: 'a', sectionId: 's', standings: [outcomeStanding([], { kind: 'latest' }, 2)] }
  expect(standingsFrom(standingsInColumns([none]))).toEqual([none])
})
