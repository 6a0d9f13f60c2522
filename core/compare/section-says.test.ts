import { sectionSays, type Against } from './section-says'

const of = (difference: number | null, half = 1): Against => ({
  difference,
  interval: difference === null ? null : [difference - half, difference + half],
})
const NONE = of(null)
const says = (here: Against, there: Against, given: Against) => sectionSays(here, there, given, 3, 40)?.words

const LOOK = 'look at the marking and the paper'
test.each([
  // Given other work, large and clear: the marking, whatever the marks look like.
  [of(5), of(0), of(5), `marked higher than its students’ other work tells: ${LOOK}`],
  [of(-6), of(4), of(-8), `marked lower than its students’ other work tells: ${LOOK}`],
  [of(1), of(-5), of(4), `the marks look level, and its students do less well elsewhere: ${LOOK}`],
  [of(-1), of(5), of(-4), `the marks look level, and its students do better elsewhere: ${LOOK}`],
  [of(1), of(-2, 4), of(4), `looks level, but higher than its students’ other work tells: ${LOOK}`],
  // Large and not clear.
  [of(5, 9), of(0), of(5, 9), 'marked higher than its students’ other work tells; may be chance'],
  [of(-1), of(0), of(-4, 6), 'marked lower than its students’ other work tells; may be chance'],
  // What other work explains.
  [of(5), of(4), of(1), 'higher, and its students do better elsewhere: strong students'],
  [of(-6), of(-5), of(0), 'lower, and its students do less well elsewhere: weaker students'],
  [of(-6, 7), of(-5), of(0), 'lower, and its students do less well elsewhere: weaker students'],
  // What nothing explains: 67.8 against 67.8 elsewhere is no weakness.
  [of(-6), of(0, 2), of(-2), 'lower here, not shown to be its students or its marking'],
  [of(-6), of(4), of(-2), 'lower here, not shown to be its students or its marking'],
  [of(6, 8), of(0, 2), of(2), 'higher here, not shown to be its students or its marking; may be chance'],
  [of(1), of(-1), of(-1), 'level'],
  [of(3), of(9), of(3), 'level'],
  // Without other work.
  [of(-6), NONE, NONE, 'marked lower than the others'],
  [of(6, 8), NONE, NONE, 'marked higher than the others; may be chance'],
  [of(1), NONE, NONE, 'level'],
  [NONE, of(2), of(2), undefined],
])('%j here, %j elsewhere, %j given that', (here, there, given, expected) => expect(says(here, there, given)).toBe(expected))

test('only what is put down to the marking asks to be looked at', () => {
  expect(sectionSays(of(5), of(0), of(5), 3, 40)!.look).toBe(true)
  expect(sectionSays(of(5, 9), of(0), of(5, 9), 3, 40)!.look).toBe(false)
  expect(sectionSays(of(5), of(4), of(1), 3, 40)!.look).toBe(false)
})

test('work that is done or not done says nothing of marking', () => {
  expect(sectionSays(of(0.4, 0.1), of(0), of(0.4, 0.1), 0.03, 2)).toBeNull()
  expect(sectionSays(of(0.4, 0.1), of(0), of(0.4, 0.1), 0.03, 4)).toBeNull()
  expect(sectionSays(of(0.4, 0.1), of(0), of(0.4, 0.1), 0.03, 5)).not.toBeNull()
})
