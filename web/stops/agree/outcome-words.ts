import type { OutcomeRule } from '#contract'

export const RULES: Record<OutcomeRule['kind'], string> = {
  latest: 'the latest result',
  highest: 'the highest result',
  mean: 'the mean of all results',
  recent: 'all results, recent ones weigh more',
  times: 'reached so many times',
}

export const ruleInWords = (rule: OutcomeRule): string =>
  rule.kind === 'recent'
    ? `${RULES.recent} (the latest ${Math.round(rule.alpha * 100)}%)`
    : rule.kind === 'times'
      ? `reached ${rule.times} times of ${rule.of === null ? 'all results' : `the last ${rule.of}`}`
      : RULES[rule.kind]
