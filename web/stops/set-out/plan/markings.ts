import type { Marking } from '#contract'

export const MARKINGS: Record<Marking, string> = {
  direct: 'direct',
  rubric: 'rubric',
  scheme: 'mark scheme',
  judgement: 'overall judgement',
  completion: 'completion: done or not',
}
