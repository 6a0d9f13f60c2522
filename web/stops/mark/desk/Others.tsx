import type { OtherReading, StandardInUse } from '#contract'
import { numeral } from '../../../parts/format'

/** What one may see of others' readings of the script, once one's own is handed in. */
export function Others({ others, standard }: { others: OtherReading[]; standard: StandardInUse | null }) {
  const titleOf = new Map(standard && standard.kind !== 'scale' ? standard.body.criteria.map((c) => [c.id, c.title]) : [])
  return (
    <section aria-label="Other readings">
      <h2>Other readings</h2>
      {others.map((o) => (
        <div key={o.marker} className="suggestion">
          <p className="mb-1">
            <b>{o.marker}</b>
            {o.mark !== null && <> gave {numeral(o.mark)}</>}
            {o.judgement && ` (${o.judgement})`}
          </p>
          {o.picks && titleOf.size > 0 && (
            <p className="soft small mb-1">
              {Object.entries(o.picks)
                .map(([id, points]) => `${titleOf.get(id) ?? id} ${numeral(points)}`)
                .join(' · ')}
            </p>
          )}
          {o.comment && <p className="mb-1">{o.comment}</p>}
          {Object.entries(o.criterionComments ?? {}).map(([id, words]) => (
            <p key={id} className="small mb-1">
              {titleOf.get(id) ?? id}: {words}
            </p>
          ))}
          {o.notes && <p className="small fst-italic mb-1">{o.notes}</p>}
        </div>
      ))}
    </section>
  )
}
