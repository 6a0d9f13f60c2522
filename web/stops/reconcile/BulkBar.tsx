import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { StandingRule } from '#core/agree'
import { useKeys } from '../../settings/keys'
import { counted } from '../../parts/format'

export const RULES = {
  mean: 'the mean',
  median: 'the median',
  highest: 'the highest',
  lowest: 'the lowest',
  first: 'the first reading',
} satisfies Record<StandingRule, string>
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
        {Object.entries(RULES).map(([kind, words]) => (
          <option key={kind} value={kind}>
            {words}
          </option>
        ))}
      </Form.Select>
      <Button size="sm" variant="outline-primary" onClick={() => onSettle(rule)}>
        Settle all {scripts} <kbd>B</kbd>
      </Button>
    </p>
  )
}
