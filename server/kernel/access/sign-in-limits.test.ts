import { SignInLimits } from './sign-in-limits'

let at = 0
const limits = () => {
  at = 1_000_000
  return new SignInLimits(() => at)
}
const fail = (of: SignInLimits, times: number, account: string, address = 'here') => {
  for (let i = 0; i < times; i++) {
    of.tried(account, address)
    of.failed(account, address)
  }
}

test('a few failures cost nothing, then each makes the wait longer, up to a quarter of an hour', () => {
  const of = limits()
  fail(of, 3, 'ines')
  expect(of.waitFor('ines', 'here')).toBe(0)
  const waits = Array.from({ length: 6 }, () => (fail(of, 1, 'ines'), of.waitFor('ines', 'here')))
  expect(waits).toEqual([1, 2, 4, 8, 16, 32])
  fail(of, 10, 'ines')
  expect(of.waitFor('ines', 'here')).toBe(900)
  at += 900_000
  expect(of.waitFor('ines', 'here')).toBe(0)
})

test('a clock that is set back makes nobody wait for longer than they had to', () => {
  const of = limits()
  fail(of, 9, 'ines')
  const before = of.waitFor('ines', 'here')
  at -= 86_400_000
  expect(of.waitFor('ines', 'here')).toBe(before)
})

test('one account’s failures hold up nobody else’s, and its owner elsewhere hardly', () => {
  const of = limits()
  fail(of, 60, 'ines')
  expect([of.waitFor('rune', 'here'), of.waitFor('ines', 'home')]).toEqual([0, 30])
})

test('who tries many accounts from one address waits for all of them, and others do not', () => {
  const of = limits()
  for (let i = 0; i < 14; i++) fail(of, 1, `somebody ${i}`)
  expect(of.waitFor('one more', 'here')).toBeGreaterThan(10)
  expect(of.waitFor('one more', 'elsewhere')).toBe(0)
})

test('a class that signs in at once from one address is no attack, and a hundred tries at once are one', () => {
  const of = limits()
  for (let i = 0; i < 40; i++) {
    expect(of.waitFor(`student ${i}`, 'here')).toBe(0)
    of.tried(`student ${i}`, 'here')
  }
  for (let i = 0; i < 40; i++) of.succeeded(`student ${i}`, 'here')
  expect(of.waitFor('one more', 'here')).toBe(0)
  const refused = Array.from({ length: 100 }, (_, i) => {
    const wait = of.waitFor(`guess ${i}`, 'here')
    if (wait === 0) of.tried(`guess ${i}`, 'here')
    return wait > 0
  }).filter(Boolean)
  expect(refused).toHaveLength(40)
})

test('whoever knew it starts afresh, and what is an hour old is forgotten', () => {
  const of = limits()
  fail(of, 8, 'ines')
  of.succeeded('ines', 'here')
  expect(of.waitFor('ines', 'here')).toBe(0)
  fail(of, 4, 'ines')
  at += 3_600_001
  fail(of, 1, 'ines')
  expect(of.waitFor('ines', 'here')).toBe(0)
})
