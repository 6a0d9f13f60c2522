import { nameParts, wholeName } from './name-parts'

const KEPT = { given: 'Maria Luz', middle: 'de', family: 'Castellane Roe' }

test('a name keeps the parts that it came in as long as it is that name', () => {
  expect(wholeName(KEPT)).toBe('Maria Luz de Castellane Roe')
  expect(nameParts('Maria Luz de Castellane Roe', KEPT)).toEqual(KEPT)
  expect(nameParts('Luz Castellane', KEPT)).toEqual({ given: 'Luz', middle: '', family: 'Castellane' })
  expect(nameParts('Ama', null)).toEqual({ given: 'Ama', middle: '', family: '—' })
})

test('blanks in and between parts are those of the whole name', () => {
  const untidy = { given: ' Ola ', middle: '', family: 'van  der Quist' }
  expect(wholeName(untidy)).toBe('Ola van der Quist')
  expect(nameParts('Ola van der Quist', untidy)).toEqual(untidy)
})
