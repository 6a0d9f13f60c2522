import { Form } from 'react-bootstrap'
import type { OutcomeRule } from '#contract'
import { NumberField } from '../../parts/NumberField'
import { RULES } from './outcome-words'

const FRESH: Record<OutcomeRule['kind'], OutcomeRule> = {
  latest: { kind: 'latest' },
  highest: { kind: 'highest' },
  mean: { kind: 'mean' },
  recent: { kind: 'recent', alpha: 0.65 },
  times: { kind: 'times', times: 2, of: 3 },
}

interface Props {
  rule: OutcomeRule
  onRule: (rule: OutcomeRule, label: string) => void
  label?: string
}

/** How several results become a standing. */
export function RuleFields({ rule, onRule, label }: Props) {
  return (
    <div className="d-flex gap-3 align-items-baseline flex-wrap">
      <Form.Select
        size="sm"
        aria-label={label}
        style={{ maxWidth: 300 }}
        value={rule.kind}
        onChange={(e) => onRule(FRESH[e.target.value as OutcomeRule['kind']], 'the rule')}
      >
        {Object.entries(RULES).map(([kind, words]) => (
          <option key={kind} value={kind}>
            {words}
          </option>
        ))}
      </Form.Select>
      {rule.kind === 'recent' && (
        <span>
          the latest weighs{' '}
          <NumberField
            label="Weight of the latest result in percent"
            className="short"
            value={rule.alpha * 100}
            min={5}
            max={100}
            step={5}
            onCommit={(p) => p !== null && onRule({ kind: 'recent', alpha: p / 100 }, 'weight of the latest')}
          />{' '}
          %
        </span>
      )}
      {rule.kind === 'times' && (
        <span>
          <NumberField
            label="How many times"
            className="short"
            value={rule.times}
            min={1}
            max={100}
            onCommit={(n) => n !== null && onRule({ ...rule, times: Math.round(n) }, 'how many times')}
          />{' '}
          of the last{' '}
          <NumberField
            label="Of the last so many results"
            className="short"
            optional
            value={rule.of}
            min={1}
            max={100}
            onCommit={(n) => onRule({ ...rule, of: n === null ? null : Math.round(n) }, 'of how many')}
          />{' '}
          <span className="soft small">(empty: of all)</span>
        </span>
      )}
    </div>
  )
}
