import { verdict } from './verdict'

const told = (lean: number | null, half = 1) => ({
  lean,
  interval: lean === null ? null : ([lean - half, lean + half] as [number, number]),
})
const words = (...of: Parameters<typeof verdict>) => verdict(...of)?.words

test.each([
  [told(5), told(1), 'high, and high elsewhere: strong students'],
  [told(-6), told(-5), 'low here only: look at its marking'],
  [told(5), told(4), 'high here only: look at its marking'],
  [told(-6), told(0), 'low, and low elsewhere: weaker students'],
  [told(1), told(-1), 'level'],
  [told(1), told(4), 'level, though its students do less well elsewhere: marked generously?'],
  [told(-1), told(-4, 6), 'level, though its students do better elsewhere: marked severely?; it may be chance'],
  [told(4), told(-4), 'high, but −4.0 for what its students do elsewhere'],
  [told(-6), null, 'low'],
  [told(null), told(2), undefined],
])('%j, and %j given other work', (here, given, expected) => expect(words(here, given, 3)).toBe(expected))
