import { nameWords } from './folded-name'

/** By what somebody in a course is known. */
export interface KnownBy {
  name: string
  candidate: string
  externalId: string | null
  signIn: string | null
}

/** Words of a name that are shorter say nothing of anybody. */
const SHORTEST = 3
/** From this length on a word with one letter more, less or other is still the same name. */
const ALIKE_FROM = 4

const joined = (text: string): string => nameWords(text).join('')
const longEnough = (word: string): boolean => word.length >= SHORTEST
const wordsOfName = (name: string, skeleton: (text: string) => string): string[] =>
  [...nameWords(skeleton(name)), joined(skeleton(name))].filter(longEnough)
/** Words that tell who somebody is: of their name, their numbers, what they sign in as. */
const tellingWords = ({ name, candidate, externalId, signIn }: KnownBy, skeleton: (text: string) => string): string[] => [
  ...wordsOfName(name, skeleton),
  ...[candidate, externalId ?? '', signIn ?? '', (signIn ?? '').split('@')[0]!].map((id) => joined(skeleton(id))).filter(longEnough),
]

/** Whether two words are the same but for one letter that is added, left out or another. */
function isOneLetterOff(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 1) return false
  let at = 0
  while (at < Math.min(a.length, b.length) && a[at] === b[at]) at++
  const [restA, restB] = [a.slice(at), b.slice(at)]
  return restA.slice(1) === restB || restA === restB.slice(1) || restA.slice(1) === restB.slice(1)
}

/**
 * Why a code name cannot be taken, in a sentence to its student; null where it can. It must tell nobody who it is: it is not their own name,
 * number or sign-in, nor nearly so, nor anybody else's, also in letters that look alike.
 * @param taken code names of others in the course
 * @param skeleton of a text: what looks alike has the same one (UTS 39, section 4)
 */
export function whyNotCodeName(
  codeName: string,
  self: KnownBy,
  others: Iterable<KnownBy>,
  taken: Iterable<string>,
  skeleton: (text: string) => string,
): string | null {
  const said = nameWords(skeleton(codeName))
  const whole = joined(skeleton(codeName))
  if (whole === '') return 'Choose a word: this one has no letter or digit in it.'
  const tells = (word: string) => whole === word || said.includes(word)
  const isNearly = (word: string) =>
    word.length >= ALIKE_FROM && (whole.includes(word) || [...said, whole].some((w) => isOneLetterOff(w, word)))
  if (tellingWords(self, skeleton).some(tells) || wordsOfName(self.name, skeleton).some(isNearly))
    return 'That tells who you are: choose a thing, and not your name or number.'
  for (const other of others)
    if (tellingWords(other, skeleton).some(tells)) return 'That is the name or number of somebody in this course: choose a thing.'
  for (const other of taken) if (joined(skeleton(other)) === whole) return `Somebody in this course is called ${other} already.`
  return null
}
