import { ZxcvbnFactory } from '@zxcvbn-ts/core'
import { adjacencyGraphs, dictionary } from '@zxcvbn-ts/language-common'
import { isMostlyOwn } from '#core/roll'

const guesser = new ZxcvbnFactory({ dictionary, graphs: adjacencyGraphs })

/** How hard a passphrase is to guess, 0 to 4, as the server judges it. @param own name and sign-in, which are guessed first */
export const hardness = (passphrase: string, own: readonly string[]): number =>
  isMostlyOwn(passphrase, own) ? 0 : guesser.check(passphrase.slice(0, 80)).score
