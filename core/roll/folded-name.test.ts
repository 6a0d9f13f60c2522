import { foldedName, nameWords } from './folded-name'

test.each([
  ['STRASSE', 'Straße'],
  ['hohe', 'Höhe'],
  ['Lukasz  Zolc', 'Łukasz\u00a0Żółć'],
  ['ｍａｐ', 'Map'],
  ['soren', 'Sørén'],
])('%s finds %s', (typed, there) => {
  expect(foldedName(there)).toBe(foldedName(typed))
})

test('words are told apart by anything that is no letter or digit', () => {
  expect(nameWords('d’Arc-Müller, Zoë (2)')).toEqual(['d', 'arc', 'muller', 'zoe', '2'])
})
