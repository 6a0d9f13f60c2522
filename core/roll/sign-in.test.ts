import { isMailAddress, isSignIn } from './sign-in'

test('a mail address needs a dot in its domain and no blanks', () => {
  expect(['a@b.cd', 'a@b', 'a b@c.de', '@c.de', 'a@@c.de'].map(isMailAddress)).toEqual([true, false, false, false, false])
})

test('a sign-in has no blanks and no hidden characters', () => {
  expect(['ana.torvik', 'ana@b.cd', 'ana torvik', '', 'a\u200Bb', 'x'.repeat(121)].map(isSignIn)).toEqual([
    true,
    true,
    false,
    false,
    false,
    false,
  ])
})
