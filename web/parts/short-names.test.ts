import { shortNames } from './short-names'

const of = (...names: string[]) => {
  const people = names.map((name) => ({ id: name, name }))
  return names.map(shortNames(people))
}

test.each([
  [
    ['Rune Daal', 'Lea Ostrand'],
    ['Daal', 'Ostrand'],
  ],
  // “Marker” and “Eight” would be nobody.
  [
    ['Second Marker', 'Marker Eight'],
    ['Second Marker', 'Eight'],
  ],
  [
    ['Ann Lee', 'Bo Lee', 'Cy Park'],
    ['Ann Lee', 'Bo Lee', 'Park'],
  ],
  [['Plato'], ['Plato']],
])('%j are %j', (names, short) => expect(of(...names)).toEqual(short))

test('who is not among them is called by their id', () => expect(shortNames([])('m')).toBe('m'))
