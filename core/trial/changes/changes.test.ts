import { scriptIdOf } from '../cells'
import { workingsOf, type TableLike } from '../course-table'
import { applyChanges, ChangeError, changesInWords, checkChanges, decisionKind, trialInWords, type Change, type Fits } from '.'

const TABLE: TableLike = {
  policy: { missing: { kind: 'zero' }, absent: { kind: 'pending' }, late: { kind: 'none' }, rounding: null, above100: 'cap' },
  boundaries: [
    { grade: 'Pass', from: 50 },
    { grade: 'Fail', from: 0 },
  ],
  students: [{ id: 'ada', sectionId: 'east' }],
  markers: [{ id: 'mo' }, { id: 'ny' }] as TableLike['markers'],
  components: [{ id: 'work', weight: 100, combine: 'byWorth', dropLowest: 0, bonus: false }],
  assessments: [
    {
      id: 'essay',
      componentId: 'work',
      outOf: 20,
      worth: 20,
      counts: true,
      bonus: false,
      droppable: true,
      readingsWanted: 2,
      tolerance: 2,
    },
  ],
  placements: [{ assessmentId: 'essay', sectionId: 'east', due: '2026-10-12' }],
  stays: {},
  leftOut: {},
  scripts: { id: [scriptIdOf('essay', 'ada')], student: [0], assessment: [0], status: [0], daysLate: [0], entered: [null] },
  readings: { script: [0, 0], marker: [0, 1], mark: [12, 15] },
  agreed: {},
  adjustments: [],
}
const w = workingsOf(TABLE)
const adjustment = {
  id: 'x',
  assessmentId: 'essay',
  outOf: 20,
  sectionIds: null,
  method: { kind: 'add' as const, by: 1 },
  on: true,
  neverLower: false,
  above: 'keep within' as const,
  step: null,
}
/** One of every kind that fits the course. */
const ALL: Change[] = [
  { kind: 'settle', scriptId: scriptIdOf('essay', 'ada'), rule: { kind: 'mean' }, step: null, mark: 13.5 },
  { kind: 'adjust', adjustment },
  { kind: 'switch', adjustmentId: 'x', on: false },
  { kind: 'bound', boundaries: [{ grade: 'Pass', from: 45 }, TABLE.boundaries[1]!] },
  { kind: 'condition', conditionId: 'k', condition: { componentId: 'work', least: 40, atMost: 'Fail' } },
  { kind: 'weigh', componentId: 'work', weight: 90 },
  { kind: 'shape', componentId: 'work', patch: { dropLowest: 1 } },
  { kind: 'assess', assessmentId: 'essay', patch: { worth: 30, counts: false } },
  { kind: 'take away', assessmentId: 'essay' },
  { kind: 'exclude', assessmentId: 'essay', studentId: 'ada', out: true },
  { kind: 'policy', policy: { ...TABLE.policy, rounding: { decimals: 0 } } },
  { kind: 'carry', assessmentId: 'essay', standardId: 'r2', readings: [] },
]

const fits = (more: Partial<Fits> = {}): Omit<Fits, 'carried' | 'after'> => ({
  w,
  assessments: new Map([['essay', { title: 'Essay', outOf: 20 }]]),
  components: new Set(['work']),
  sections: new Set(['east']),
  students: new Set(['ada']),
  markers: new Set(['mo']),
  rereadNow: () => true,
  adjustments: new Set(['x']),
  above100: 'cap',
  markOfPicks: () => null,
  carriesNow: () => true,
  ...more,
})
const refused = (change: Change, more: Partial<Fits> = {}): [string, boolean] | null => {
  try {
    checkChanges([change], fits(more), (_, e) => {
      throw e
    })
  } catch (e) {
    return [(e as Error).message, e instanceof ChangeError && e.stale]
  }
  return null
}

test.each(ALL.map((c) => [c.kind, c] as const))('%s fits the course that it was made for, and is told in the record', (_, change) => {
  expect(refused(change)).toBeNull()
  const called = { title: () => 'Essay', marker: () => 'Mo', section: () => 'East', ofScript: () => 'essay', adjustments: [adjustment] }
  expect(changesInWords([change], called)).not.toBe('')
  expect(trialInWords([change])).toMatch(/^1 \w/)
})

const NOWHERE = { assessments: new Map(), components: new Set<string>(), students: new Set<string>(), adjustments: new Set<string>() }
test.each(ALL.filter((c) => !['settle', 'bound', 'policy'].includes(c.kind)).map((c) => [c.kind, c] as const))(
  '%s to what is not there is refused in a sentence',
  (_, change) => expect(refused(change, NOWHERE)?.[0]).toMatch(/^There is no such /),
)

test('what has changed since is told apart from what never fitted', () => {
  const [settle] = ALL as [Extract<Change, { kind: 'settle' }>]
  expect(refused({ ...settle, mark: 14 })).toEqual(['The readings of a script changed meanwhile: settle it again.', true])
  expect(refused({ ...settle, scriptId: 'none' })).toEqual(['There is no such script.', false])
  expect(refused({ ...settle, rule: { kind: 'value', mark: 21 } as never, mark: 21 })).toEqual(['21 is outside 0 to 20.', false])
  expect(refused(ALL.at(-1)!, { carriesNow: () => false })?.[1]).toBe(true)
})

test('a decision of one kind is called by it, else it is of several', () => {
  expect(decisionKind([ALL[1]!, ALL[2]!])).toBe('rescale')
  expect(decisionKind([ALL[1]!, ALL[4]!])).toBe('several')
})

test('what a change does not touch stays the very same, so that nothing is worked out again for it', () => {
  const bound = applyChanges(w, [ALL[3]!])
  expect(bound.course.components).toBe(w.course.components)
  expect(bound.course.assessments).toBe(w.course.assessments)
  for (const part of ['scripts', 'readings', 'agreed', 'adjustments', 'leftOut'] as const) expect(bound[part]).toBe(w[part])
})

test('a condition is set, changed and taken away by its id, and goes along with the grade that it names', () => {
  const asks = (least: number, conditionId = 'k'): Change => ({
    kind: 'condition',
    conditionId,
    condition: { componentId: 'work', least, atMost: 'Fail' },
  })
  const set = applyChanges(w, [asks(40), asks(60, 'other'), asks(50)])
  expect(set.course.conditions.map((c) => [c.id, c.least])).toEqual([
    ['k', 50],
    ['other', 60],
  ])
  const named: Change = { kind: 'bound', boundaries: [TABLE.boundaries[0]!, { grade: 'Not yet', from: 0 }] }
  expect(applyChanges(set, [named]).course.conditions.map((c) => c.atMost)).toEqual(['Not yet', 'Not yet'])
  // Where a grade comes or goes nobody can say which one it was.
  const third: Change = { kind: 'bound', boundaries: [{ grade: 'Merit', from: 70 }, ...TABLE.boundaries] }
  expect(applyChanges(set, [third]).course.conditions).toBe(set.course.conditions)
  expect(applyChanges(set, [{ kind: 'condition', conditionId: 'k', condition: null }]).course.conditions.map((c) => c.id)).toEqual([
    'other',
  ])
})

test('a grade that a condition names is not taken away, nor lost under another name beside a new one', () => {
  const asks: Change = { kind: 'condition', conditionId: 'k', condition: { componentId: 'work', least: 40, atMost: 'Fail' } }
  const set = applyChanges(w, [asks])
  const bound = (boundaries: { grade: string; from: number }[]): Change => ({ kind: 'bound', boundaries })
  const [first] = TABLE.boundaries
  expect(refused(bound([first!, { grade: 'Not yet', from: 0 }]), { w: set })).toBeNull()
  expect(refused(bound([{ ...first!, from: 0 }]), { w: set })?.[0]).toMatch(/^A condition gives at most Fail, a grade that would be gone/)
  const beside = [{ grade: 'Merit', from: 70 }, first!, { grade: 'Not yet', from: 0 }]
  expect(refused(bound(beside), { w: set })?.[0]).toMatch(/would be gone/)
})

test('lines that were drawn for grades under other names are drawn again', () => {
  const over = [{ ...TABLE.boundaries[0]!, grade: 'Old name' }, TABLE.boundaries[1]!]
  const drawn: Change = { kind: 'bound', boundaries: over.map((b, i) => (i === 0 ? { ...b, from: b.from + 1 } : b)), over }
  expect(refused(drawn)).toEqual([expect.stringMatching(/^The grades of the course have other names by now/), true])
})
