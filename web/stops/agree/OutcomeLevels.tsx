import type { OutcomeBody } from '#contract'
import { ruleInWords } from './outcome-words'

/** An outcome as it stands: its statement, its levels from the top, and what counts as reached. */
export function OutcomeLevels({ outcome }: { outcome: OutcomeBody }) {
  return (
    <>
      <p dir="auto" style={{ maxWidth: '68ch' }}>
        {outcome.statement}
      </p>
      <table className="grid" style={{ maxWidth: 720 }}>
        <tbody>
          {outcome.levels
            .map((l, i) => ({ ...l, nth: i + 1 }))
            .reverse()
            .map((l) => (
              <tr key={l.nth}>
                <td className="fw-semibold" style={{ width: 160 }}>
                  {l.label}
                </td>
                <td dir="auto">{l.words}</td>
                <td className="soft small">{l.nth === outcome.reached && 'reached from here up'}</td>
              </tr>
            ))}
        </tbody>
      </table>
      <p className="soft small mt-2">Where a student stands: {ruleInWords(outcome.rule)}.</p>
    </>
  )
}
