import { isMostlyOwn } from './own-words'

test.each([
  ['maren osterlund', true],
  ['Osterlund-Maren-99', true],
  ['osterlundosterlund', true],
  ['maren counts slow barges', false],
  ['slow barges under alder', false],
  ['short', false],
])('%j is little more than the name: %s', (passphrase, expected) =>
  expect(isMostlyOwn(passphrase, ['Maren Osterlund', 'maren'])).toBe(expected),
)

test('without a name nothing is', () => expect(isMostlyOwn('anything', [''])).toBe(false))
