import type { AgreeRule } from './agree-mark'

/** What a mark was agreed by, in words after “by”. */
export const RULE_WORDS: Record<AgreeRule['kind'], string> = {
  mean: 'the mean',
  median: 'the median',
  highest: 'the highest',
  lowest: 'the lowest',
  first: 'the first reading',
  senior: 'one marker’s reading',
  value: 'a mark of the lead’s own',
  levelled: 'the mean of the levelled readings',
  criteria: 'each criterion',
}
