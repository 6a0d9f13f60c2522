/** What is left of a passphrase without its owner’s own words has to be worth as much as this many characters. */
const LEFT_OVER = 6

/** Whether a passphrase is little more than its owner’s own words (name, sign-in, department), which are guessed first. */
export function isMostlyOwn(passphrase: string, own: readonly string[]): boolean {
  const letters = (text: string) => text.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, '')
  const words = own.flatMap((text) => text.toLowerCase().split(/[^\p{L}\p{N}]+/u)).filter((word) => word.length > 2)
  const left = words.sort((a, b) => b.length - a.length).reduce((rest, word) => rest.replaceAll(word, ''), letters(passphrase))
  return words.length > 0 && left.length < LEFT_OVER && left !== letters(passphrase)
}
