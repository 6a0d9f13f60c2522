import type { ComparedMarker, ComparedMarkers } from './figures'
import { leaningCriteria, lineOf } from './words'

const compared = { title: 'Essay', unit: 'marks', tolerance: 3 } as ComparedMarkers
const marker = (more: Partial<ComparedMarker> = {}): ComparedMarker => ({
  id: 'mo',
  name: 'Mo',
  n: 12,
  shared: 10,
  lean: -5,
  interval: [-6, -4],
  ownSpread: 1,
  erratic: false,
  group: 0,
  ...more,
})

test.each([
  [
    {},
    ['Line', 'Shade', 'Words'],
    'Essay: on 10 scripts that others read too, −5.0 marks against them (95% −6.0 to −4.0): severe. Most of it in Line, Shade.',
  ],
  [{ lean: 4, interval: null }, [], 'Essay: on 10 scripts that others read too, +4.0 marks against them: generous.'],
  [
    { lean: 1, erratic: true },
    ['Line'],
    'Essay: on 10 scripts that others read too, +1.0 marks against them (95% −6.0 to −4.0): level with the others. The differences go both ways, more than anybody else’s.',
  ],
  [{ lean: null }, [], 'Essay: 12 scripts read, none of which anybody else has read. Nothing can be told.'],
])('%j in words', (more, criteria, words) => expect(lineOf(marker(more), compared, criteria)).toBe(words))

test('a lean is made of the criteria that lean the same way and not by chance, most first', () => {
  const lean = (effect: number, half: number) => ({ effect, interval: [effect - half, effect + half] as [number, number] })
  const leans = {
    assessmentId: 'essay',
    criteria: ['Line', 'Shade', 'Words', 'Sources'].map((title) => ({ id: title, title, max: 10 })),
    leans: { mo: [lean(-0.4, 0.1), lean(-0.9, 0.2), lean(0.8, 0.1), lean(-0.2, 0.5)] },
  }
  expect(leaningCriteria(marker(), leans)).toEqual(['Shade', 'Line'])
  expect(leaningCriteria(marker({ lean: 5 }), leans)).toEqual(['Words'])
  expect(leaningCriteria(marker(), undefined)).toEqual([])
})
