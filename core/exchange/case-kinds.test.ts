import { createHash } from 'node:crypto'
import fc from 'fast-check'
import { readCase, writeCase, type CaseRubric } from './case'
import { scaleAsRubric, schemeAsRubric, standardOf } from './case-kinds'

const uuid = (name: string): string =>
  createHash('sha1')
    .update(name)
    .digest('hex')
    .replace(/^(.{8})(.{4}).(.{3}).(.{3})(.{12}).*$/, '$1-$2-5$3-8$4-$5')
const through = (rubric: CaseRubric) => readCase(JSON.stringify(writeCase([rubric], { uuid, at: '' }))).rubrics.map(standardOf)
const words = fc.string({ minLength: 1, maxLength: 20 }).filter((s) => s.trim() !== '')

test('a mark scheme comes back as a mark scheme, with its notes', () =>
  fc.assert(
    fc.property(
      fc.array(fc.record({ title: words, max: fc.integer({ min: 1, max: 4000 }).map((n) => n / 4), words, notes: words }), {
        maxLength: 6,
      }),
      (parts) => {
        const criteria = parts.map((p, i) => ({ id: `c${i + 1}`, ...p }))
        expect(through(schemeAsRubric({ id: 's', title: 'Levelling', criteria }))).toEqual([
          { kind: 'scheme', title: 'Levelling', source: uuid('rubric s'), body: { criteria } },
        ])
      },
    ),
  ))

test('a scale comes back as a scale, thirds and uneven thresholds as they were', () =>
  fc.assert(
    fc.property(fc.uniqueArray(fc.integer({ min: 0, max: 300 }), { minLength: 1, maxLength: 8 }), words, (thirds, label) => {
      const labels = thirds
        .sort((a, b) => a - b)
        .map((n, i) => ({ label: `${label} ${i}`, percent: Number((n / 3).toFixed(6)), threshold: Number((n / 3.5).toFixed(6)) }))
      expect(through(scaleAsRubric({ id: 'x', title: 'Five words', labels }))).toEqual([
        { kind: 'scale', title: 'Five words', source: uuid('rubric x'), body: { labels } },
      ])
    }),
  ))

test('a rubric is none of the two', () =>
  expect(through({ id: 'r', title: 'Map', criteria: [{ id: 'c1', title: 'Aim', ranges: false, penalty: false, levels: [] }] })).toEqual([
    null,
  ]))
