import type { DecimalSign } from './written'

/**
 * A sentence written with decimal points, with the decimals of its reader: “Merit begins at 69,5”. Names keep theirs.
 * @param names the titles of assessments, sections and grades that may be in the sentence
 */
export function sentenceWith(decimal: DecimalSign, sentence: string, names: readonly string[]): string {
  if (decimal === 'point') return sentence
  // Only a name that has a decimal in it could be taken for one; the longest first, as one name may begin with another.
  const kept = names.filter((n) => /\d\.\d/.test(n)).sort((a, b) => b.length - a.length)
  const quoted = kept.map((n) => n.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'))
  const parts = quoted.length === 0 ? [sentence] : sentence.split(new RegExp(`(?<![\\d.])(${quoted.join('|')})(?!\\d)`))
  return parts.map((part, i) => (i % 2 === 1 ? part : part.replace(/(\d)\.(?=\d)/g, '$1,'))).join('')
}
