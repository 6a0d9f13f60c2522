import type { AgreeRule } from './agree-mark'

const PLAIN = ['mean', 'median', 'highest', 'lowest', 'first'] as const
const SENIOR = 'senior '
const LEVELLED = 'levelled '

/** A rule that agrees readings again where they are taken for something else, as it travels; null for one that gave a mark once and for all. */
export function againBy(rule: AgreeRule): string | null {
  if (rule.kind === 'senior') return `${SENIOR}${rule.markerId}`
  if (rule.kind === 'levelled') return `${LEVELLED}${JSON.stringify([rule.outOf, rule.leans])}`
  return (PLAIN as readonly string[]).includes(rule.kind) ? rule.kind : null
}

/** The rule that such a word stands for; undefined for none. */
export function ruleAgain(word: string): AgreeRule | undefined {
  if (word.startsWith(SENIOR)) return { kind: 'senior', markerId: word.slice(SENIOR.length) }
  if (word.startsWith(LEVELLED)) return levelledAgain(word.slice(LEVELLED.length))
  const kind = PLAIN.find((k) => k === word)
  return kind && { kind }
}

function levelledAgain(json: string): AgreeRule | undefined {
  try {
    const [outOf, leans] = JSON.parse(json) as [number, Record<string, number>]
    return { kind: 'levelled', leans, outOf }
  } catch {
    return undefined
  }
}
