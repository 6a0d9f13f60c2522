import { counted, numeral } from '../../parts/format'
import type { RescaleFigures } from './figures'

/** How many marks meet at the ends of the range by it, where they can no longer be told apart. */
export function Ends({ figures: { ends, subject } }: { figures: RescaleFigures }) {
  if (ends.top <= 0 && ends.bottom <= 0) return <span />
  return (
    <span className="ochre small" role="status">
      {ends.top > 0 && `${counted(ends.top, 'more', 'more')} would stand at ${numeral(subject.outOf)}, all alike. `}
      {ends.bottom > 0 && `${counted(ends.bottom, 'more', 'more')} would stand at 0, all alike.`}
    </span>
  )
}
