import { Form } from 'react-bootstrap'
import { RULE_WORDS, STANDING_RULES, type StandingRule } from '#core/agree'
import type { Assessment } from '#contract'
import { useCourse } from '../../course/course'
import { numeral } from '../../parts/format'

/** How an assessment settles what lies within its tolerance from now on; tried like any other decision. */
export function StandingRuleSelect({ assessment }: { assessment: Assessment }) {
  const { table, trial, propose, mayDecide } = useCourse()
  const tried = trial.changes.findLast((c) => c.kind === 'agree by' && c.assessmentId === assessment.id)
  const now = tried?.kind === 'agree by' ? tried.rule : (table.agreeBy[assessment.id] ?? null)
  return (
    <Form.Select
      size="sm"
      aria-label="Standing rule"
      title={`How scripts of ${assessment.title} whose readings lie within ${numeral(assessment.tolerance)} are settled from now on; a person settles those beyond it`}
      value={now ?? ''}
      disabled={!mayDecide}
      onChange={(e) =>
        propose(
          [{ kind: 'agree by', assessmentId: assessment.id, rule: e.target.value === '' ? null : (e.target.value as StandingRule) }],
          `standing rule of ${assessment.title}`,
        )
      }
    >
      <option value="">within tolerance: a person settles each</option>
      {STANDING_RULES.map((rule) => (
        <option key={rule} value={rule}>
          within tolerance: {RULE_WORDS[rule]}, always
        </option>
      ))}
    </Form.Select>
  )
}
