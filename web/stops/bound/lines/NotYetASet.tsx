import { useCourse } from '../../../course/course'
import { numeral } from '../../../parts/format'
import type { Lines } from '../useLines'

/** What is wrong with the limits as typed, how to mend it, and what holds until then. */
export function NotYetASet({ lines: { typed, findings, boundaries, tryOut, putBack } }: { lines: Lines }) {
  const { trial } = useCourse()
  if (!typed) return null
  const inTrial = trial.changes.some((c) => c.kind === 'bound')
  return (
    <div className="note bad" role="alert">
      {findings.map((f) => (
        <p className="mb-1" key={`${f.row} ${f.kind}`}>
          {f.message}{' '}
          {f.fix && (
            <button className="quiet-button" onClick={() => tryOut(f.fix!, 'boundaries as percents')}>
              Make it {f.fix.map((b) => numeral(b.from)).join(', ')}
            </button>
          )}
        </p>
      ))}
      <p className="mb-0">
        The limits as typed are not tried: {boundaries.map((b) => `${b.grade} ${numeral(b.from)}`).join(', ')}{' '}
        {inTrial ? 'are in the trial' : 'are in force'}.{' '}
        <button className="quiet-button" onClick={putBack}>
          Put them back
        </button>
      </p>
    </div>
  )
}
