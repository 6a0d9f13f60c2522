/** Letters that are not a plain letter and a mark, and what is typed in their place where a keyboard lacks them. */
const TYPED_AS: Record<string, string> = { ø: 'o', ł: 'l', đ: 'd', ð: 'd', þ: 'th', æ: 'ae', œ: 'oe', ı: 'i', ħ: 'h', ŋ: 'n' }
/** Most text is nothing else, and is searched letter by letter as one types. */
const PLAIN = /^[\x20-\x7e]*$/
const TO_TYPE = new RegExp(`[${Object.keys(TYPED_AS).join('')}]`, 'g')

/**
 * Text as it is searched and compared: without case, accents, width, or double and hard spaces. *STRASSE* is *Straße*, *hohe* is *Höhe*.
 * Source: Unicode normalisation form KD (UAX 15) with full case folding by way of upper case.
 */
export const foldedName = (text: string): string => (PLAIN.test(text) ? text.toLowerCase() : foldedWhole(text)).replace(/\s+/g, ' ').trim()

const foldedWhole = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toUpperCase()
    .toLowerCase()
    .replace(TO_TYPE, (letter) => TYPED_AS[letter]!)

/** The words of a text, folded. */
export const nameWords = (text: string): string[] =>
  foldedName(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== '')
