import { placementFindings, type PlacedOn } from './placement-findings'

const term = { firstDay: '2026-09-07', lastDay: '2026-12-18' }
const sections = [
  { id: 'a', name: 'Alidade', weekdays: [1, 3], firstDay: '2026-09-07' },
  { id: 'b', name: 'Groma', weekdays: [2, 4], firstDay: '2026-09-15' },
]
const assessments = [
  { id: 'x', title: 'Pacing', counts: true },
  { id: 'y', title: 'Levelling', counts: true },
]
const good: PlacedOn[] = [
  { assessmentId: 'x', sectionId: 'a', due: '2026-10-05' },
  { assessmentId: 'x', sectionId: 'b', due: '2026-10-06' },
  { assessmentId: 'y', sectionId: 'a', due: '2026-10-12' },
  { assessmentId: 'y', sectionId: 'b', due: '2026-10-13' },
]
const with_ = (due: string | null) => good.map((p) => (p.assessmentId === 'y' && p.sectionId === 'b' ? { ...p, due } : p))
const found = (placements: PlacedOn[]) => placementFindings({ term, sections, assessments, placements })

test('nothing is odd about days that are meetings in term', () => expect(found(good)).toEqual([]))

test.each([
  ['2026-10-18', 'weekend', 'Levelling in Groma is due on a Sunday.', '2026-10-20'],
  ['2027-01-05', 'outside the term', 'Levelling in Groma is due 5 Jan 2027, outside the term.', '2026-10-13'],
  ['2026-09-08', 'before the first day', 'Levelling is due 8 Sep 2026, before Groma starts on 15 Sep 2026.', '2026-09-15'],
  ['2026-10-12', 'no meeting', 'Groma does not meet on a Monday, when Levelling is due.', '2026-10-13'],
  [null, 'no date', 'Levelling has no date in Groma.', '2026-10-13'],
])('%s: %s', (due, kind, message, mend) => {
  expect(found(with_(due))).toEqual([{ key: `${kind}|y|b|${due ?? ''}`, kind, assessmentId: 'y', sectionId: 'b', due, message, mend }])
})

test.each([
  ['2026-08-20', 'Marks of Levelling are let out in Groma on 20 Aug 2026, before the course begins.'],
  ['2026-10-12', 'Marks of Levelling are let out in Groma on 12 Oct 2026, before it is due.'],
  ['2026-10-13', null],
])('let out on %s', (letOut, message) => {
  const placements = good.map((p) => (p.assessmentId === 'y' && p.sectionId === 'b' ? { ...p, letOut } : p))
  expect(found(placements).map((f) => [f.kind, f.message, f.mend])).toEqual(message === null ? [] : [['let out early', message, null]])
})

test('several due on one day are named once, with all of them', () => {
  const findings = found(with_('2026-10-06'))
  expect(findings.map((f) => f.message)).toEqual(['Pacing and Levelling are due on one day, 6 Oct 2026, in Groma.'])
})

test('a section that lacks an assessment, and one that is set for none', () => {
  expect(found(good.slice(0, 3)).map((f) => [f.kind, f.message, f.mend])).toEqual([
    ['not set', 'Levelling is not set for Groma.', '2026-10-13'],
  ])
  expect(found(good.slice(0, 2)).map((f) => f.message)).toEqual(['Levelling is set for no section.'])
})

test('what is mended by the day on offer is odd no more', () => {
  for (const due of ['2026-10-18', '2027-01-05', '2026-09-08', '2026-10-12', null]) {
    const [finding] = found(with_(due))
    expect(found(with_(finding!.mend))).toEqual([])
  }
})
