import { RULE_WORDS } from '../../agree/rule-words'
import { STANDING_RULES, type StandingRule } from '../../agree/standing-rule'
import { ChangeError, there, type ChangeKind } from './kind'

/** How an assessment settles what lies within its tolerance from now on; null leaves every script to a person. */
export interface AgreeBy {
  kind: 'agree by'
  assessmentId: string
  rule: StandingRule | null
}

export const agreeBy: ChangeKind<AgreeBy> = {
  decides: 'reconcile',
  word: 'standing rule',
  target: (c) => c.assessmentId,
  apply(draft, { assessmentId, rule }) {
    const { [assessmentId]: _, ...others } = draft.agreeBy
    draft.agreeBy = rule === null ? others : { ...others, [assessmentId]: rule }
  },
  check(c, { assessments }) {
    there(assessments, c.assessmentId, 'assessment')
    if (c.rule !== null && !STANDING_RULES.includes(c.rule)) throw new ChangeError('There is no such rule.')
  },
  words: (all, { title }) =>
    all.map(({ assessmentId, rule }) =>
      rule === null
        ? `every script of ${title(assessmentId)} is settled by a person`
        : `scripts of ${title(assessmentId)} within tolerance are settled by ${RULE_WORDS[rule]}, a person settles those beyond it`,
    ),
}
