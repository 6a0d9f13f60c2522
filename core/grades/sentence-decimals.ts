import type { DecimalSign } from './written'

/**
 * A sentence that was kept with decimal points, as its reader writes decimals: “Merit begins at 69.5” with a comma. What people named
 * stays as they wrote it.
 * @param names of assessments, sections, grades: whatever may stand in it
 */
export function sentenceWith(decimal: DecimalSign, sentence: string, names: readonly string[]): string {
  if (decimal === 'point') return sentence
  // Only a name that has a decimal in it could be taken for one; the longest first, as one name may begin with another.
  const kept = names.filter((n) => /\d\.\d/.test(n)).sort((a, b) => b.length - a.length)
  const quoted = kept.map((n) => n.replace(/[.*+?^${}()|[\]\\]/g, '\\$&'))
  const parts = quoted.length === 0 ? [sentence] : sentence.split(new RegExp(`(${quoted.join('|')})`))
  return parts.map((part, i) => (i % 2 === 1 ? part : part.replace(/(\d)\.(?=\d)/g, '$1,'))).join('')
}
