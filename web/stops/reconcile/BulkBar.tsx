import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { RULE_WORDS, STANDING_RULES, type StandingRule } from '#core/agree'
import { useKeys } from '../../settings/keys'
import { counted } from '../../parts/format'
import { KeyCap } from '../../settings/KeyCap'

export type BulkRule = StandingRule

interface Props {
  /** That wait within their tolerance. */
  scripts: number
  onSettle: (rule: BulkRule) => void
}

/** Settles what lies within tolerance, by one rule for all. */
export function BulkBar({ scripts, onSettle }: Props) {
  const [rule, setRule] = useState<BulkRule>('mean')
  useKeys([{ key: 'b', does: 'settle all within tolerance', run: () => onSettle(rule) }])
  return (
    <p className="note d-flex gap-2 align-items-center flex-wrap">
      {counted(scripts, 'script')} within tolerance {scripts === 1 ? 'waits' : 'wait'}:
      <Form.Select
        size="sm"
        aria-label="Rule for scripts within tolerance"
        value={rule}
        onChange={(e) => setRule(e.target.value as BulkRule)}
      >
        {STANDING_RULES.map((kind) => (
          <option key={kind} value={kind}>
            {RULE_WORDS[kind]}
          </option>
        ))}
      </Form.Select>
      <Button size="sm" variant="outline-primary" onClick={() => onSettle(rule)}>
        Settle all {scripts} <KeyCap cap="b" />
      </Button>
    </p>
  )
}
