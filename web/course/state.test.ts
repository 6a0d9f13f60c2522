import fc from 'fast-check'
import type { Adjustment } from '#core/rescale'
import { addChanges, applyChanges, type Change, workingsOf } from '#core/trial'
import { wholeResult } from '../../core/testing/whole-result'
import { told } from '../../core/testing/told'
import { smallTable } from '../testing/small-course'
import { Outcome } from './state'

const add: Adjustment = {
  id: 'add',
  assessmentId: 'essay',
  outOf: 20,
  sectionIds: null,
  method: { kind: 'add', by: 2 },
  on: true,
  neverLower: false,
  above: 'keep within',
  step: null,
}
const table = smallTable(
  [
    ['ada', 'paper', 20],
    ['ada', 'essay', null],
    ['bo', 'paper', 31],
    ['bo', 'essay', null],
    ['cy', 'paper', 12],
    ['cy', 'essay', null],
  ],
  [
    ['ada', 'essay', 'mo', 6],
    ['ada', 'essay', 'ny', 15],
    ['bo', 'essay', 'mo', 12],
    ['bo', 'essay', 'ny', 14],
    ['cy', 'essay', 'mo', 9],
    ['cy', 'essay', 'ny', 8],
  ],
  { agreed: { 'essay:cy': 9 } },
)

const scripts = fc.constantFrom('essay:ada', 'essay:bo', 'essay:cy')
const change: fc.Arbitrary<Change> = fc
  .oneof(
    { weight: 3, arbitrary: fc.record({ kind: fc.constant('settle' as const), scriptId: scripts, mark: fc.integer({ min: 0, max: 20 }) }) },
    { weight: 2, arbitrary: fc.record({ kind: fc.constant('reopen' as const), scriptId: scripts }) },
    fc.record({
      kind: fc.constant('weigh' as const),
      componentId: fc.constantFrom('exam', 'work'),
      weight: fc.integer({ min: 1, max: 90 }),
    }),
    fc.record({
      kind: fc.constant('agree by' as const),
      assessmentId: fc.constant('essay'),
      rule: fc.constantFrom('mean' as const, 'highest' as const),
    }),
    fc.constant({ kind: 'adjust' as const, adjustment: add }),
  )
  .map((c) => (c.kind === 'settle' ? { ...c, step: null, rule: { kind: 'value' as const, mark: c.mark, reason: 'said so' } } : c))

test('what is worked out from what was before is what is worked out from nothing, whatever a trial settles, opens or changes beside', () => {
  const adopted = [table, { ...table, adjustments: [add] }]
    .map((t) => workingsOf(t))
    .map((workings) => ({ workings, outcome: Outcome.of(workings) }))
  fc.assert(
    fc.property(fc.constantFrom(...adopted), fc.array(change, { minLength: 1, maxLength: 5 }), ({ workings, outcome }, changes) => {
      const tried = applyChanges(workings, addChanges([], changes))
      const [step, whole] = [outcome.with(tried), Outcome.of(tried)]
      expect(wholeResult(step.result)).toEqual(wholeResult(whole.result))
      expect(told(step.standing)).toEqual(told(whole.standing))
    }),
    { numRuns: 300 },
  )
})
