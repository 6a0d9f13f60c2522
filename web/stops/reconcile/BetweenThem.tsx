import type { AgreedBetween } from '#contract'
import { numeral, shownAt } from '../../parts/format'

/** What the two readers of a script said to each other. */
export const BetweenThem = ({ said }: { said: readonly AgreedBetween[] }) => said.map((b) => <Proposed key={b.by + b.at} between={b} />)

function Proposed({ between: b }: { between: AgreedBetween }) {
  return (
    <p className={`mb-1 ${b.holds && !b.withdrawn ? '' : 'soft'}`}>
      <b>{b.by}</b> proposed <b>{numeral(b.mark)}</b>: <span dir="auto">{b.reason}</span>
      {b.withdrawn && ' · withdrawn'}
      {!b.holds && ' · a reading has changed since'}
      {b.agrees === null && b.holds && !b.withdrawn && <span className="soft"> · not answered yet</span>}
      {b.agrees === true && <b> · {b.answeredBy} agrees</b>}
      {b.agrees === false && (
        <span className="ochre">
          {' '}
          · {b.answeredBy} does not: <span dir="auto">{b.answer}</span>
        </span>
      )}
      <span className="soft small"> {shownAt(b.at, 'd MMM, HH:mm')}</span>
    </p>
  )
}
