import fc from 'fast-check'
import type { SheetRubric } from '../exchange/rubric-sheet'
import type { Criterion } from '../scales/rubric'

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
    .map((c): Criterion => ({ ...c, id: `c${nth + 1}`, ranges: false, levels: c.levels.sort((a, b) => a.points - b.points) }))
const rubric = fc.integer({ min: 1, max: 5 }).chain((n) => fc.tuple(...Array.from({ length: n }, (_, i) => criterion(i))))

const name = fc.option(fc.constantFrom('good', 'not yet', '= best', '-1', "'-1", '@home', 'sehr gut'), { nil: undefined })
/** Rubrics of every form that travels in a file. */
export const anyRubric: fc.Arbitrary<SheetRubric> = fc
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
