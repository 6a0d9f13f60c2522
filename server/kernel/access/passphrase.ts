import { hash, verify } from '@node-rs/argon2'
import { ZxcvbnFactory } from '@zxcvbn-ts/core'
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common'
import { isMostlyOwn } from '#core/roll'
import { HttpProblem } from '../problem'

/** argon2id with 19 MiB and two passes: some 25 ms of one core, so that a server of two stands a hundred people coming in at once. */
const COST = { memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const

/** Checked where nobody has that sign-in, so that time does not tell who exists. */
const NOBODY = '$argon2id$v=19$m=19456,t=2,p=1$c29tZXNhbHRzb21lc2FsdA$Wl0Hm0Bq0vS6dAW1kS9eUuA7xw3Z2kZVjOoqzX0p1uA'

// The commonest passphrases and what is built from them, as the same package judges them on the page.
const guesser = new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs })
const EASY = 1

/** @throws HttpProblem where it is one of the commonest, or made from one or from its owner's own name */
export function refuseEasy(passphrase: string, own: readonly string[] = []): void {
  // What is longer is judged by its beginning: nobody guesses by halves.
  if (isMostlyOwn(passphrase, own) || guesser.check(passphrase.slice(0, 80)).score <= EASY)
    throw new HttpProblem(
      422,
      'That is one of the passphrases that are tried first, or made from one: take a few words that do not belong together.',
      {
        field: 'passphrase',
      },
    )
}

export const hashOf = (passphrase: string): Promise<string> => hash(passphrase, COST)

/** Whether it is the passphrase of a hash; never where there is none. */
export const isPassphrase = (stored: string | undefined, passphrase: string): Promise<boolean> =>
  verify(stored || NOBODY, passphrase).then(
    (good) => good && !!stored,
    () => false,
  )
