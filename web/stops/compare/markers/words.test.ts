import type { ComparedMarker, ComparedMarkers } from './figures'
import { leaningCriteria, lineOf, spreadInWords } from './words'

const compared = { title: 'Essay', unit: 'marks', tolerance: 3 } as ComparedMarkers
const EVEN: ComparedMarker['fit'] = { pairs: 40, sd: 2, spread: 1, interval: [0.8, 1.3], erratic: false, why: null }
const ERRATIC: ComparedMarker['fit'] = { ...EVEN, spread: 2.1, interval: [1.6, 2.7], erratic: true }
const marker = (more: Partial<ComparedMarker> = {}): ComparedMarker => ({
  id: 'mo',
  name: 'Mo',
  n: 12,
  shared: 10,
  lean: -5,
  interval: [-6, -4],
  fit: EVEN,
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
    { lean: 1, fit: ERRATIC },
    ['Line'],
    'Essay: on 10 scripts that others read too, +1.0 marks against them (95% −6.0 to −4.0): level with the others. The differences go both ways: 2.1 times as far as the others’ (95% 1.6 to 2.7).',
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

test.each([
  [EVEN, '1.0 times the others’, 95% 0.8 to 1.3.'],
  [{ ...EVEN, spread: null, interval: null }, 'The others do not differ at all.'],
  [
    { ...EVEN, pairs: 1, sd: null, spread: null, interval: null, why: 'too few read twice' as const },
    'Too few of their scripts were read twice: 1 pair of readings, 20 are needed.',
  ],
  [
    { ...EVEN, sd: null, spread: null, interval: null, why: 'cannot be told apart' as const },
    'Their spread cannot be told from the others’: that takes three markers (or another odd number) who share scripts in a ring.',
  ],
])('own spread %j in words', (fit, words) => expect(spreadInWords(fit)).toBe(words))
