import type { ScriptDetail } from '#contract'
import { counted, numeral, shownAt } from '../../parts/format'
import { readingColour } from '../../parts/ReadingsLine'
import { useCriteria } from './useCriteria'
import styles from './reconcile.module.css'

type Reading = ScriptDetail['readings'][number]

/** What each reader wrote, and how their readings came to be what they are. */
export function Remarks({ readings, standardId }: { readings: readonly (Reading | undefined)[]; standardId: string | null }) {
  const criteria = useCriteria(standardId)
  return readings.map(
    (r, i) =>
      r &&
      (r.comment || r.notes || r.afterSeeing || r.earlier.length > 0 || Object.values(r.criterionComments).some(Boolean)) && (
        <blockquote key={r.markerId} className={styles.remark} style={{ borderColor: readingColour(i) }}>
          <span dir="auto">{r.comment}</span>
          {Object.entries(r.criterionComments).map(
            ([on, words]) =>
              words && (
                <p key={on} className="small mb-0" dir="auto">
                  <span className="soft">{criteria.find((c) => c.id === on)?.title ?? on}:</span> {words}
                </p>
              ),
          )}
          {r.notes && (
            <p className="small mb-0" dir="auto">
              <span className="soft">for markers:</span> {r.notes}
            </p>
          )}
          <ReadingStates reading={r} />
        </blockquote>
      ),
  )
}

/** How a reading came to be what it is: every state it was in, and what was changed after others' readings were seen. */
function ReadingStates({ reading: r }: { reading: Reading }) {
  if (r.earlier.length === 0 && !r.afterSeeing) return null
  return (
    <div className="small">
      {r.afterSeeing && <b className="ochre">changed after seeing how others read it</b>}
      {r.earlier.length > 0 && (
        <details>
          <summary className="soft">{counted(r.earlier.length, 'earlier state')}</summary>
          <ul className="people">
            {r.earlier.map((e) => (
              <li key={e.replacedAt}>
                <span>
                  <b>{e.mark === null ? 'not all judged' : numeral(e.mark)}</b> {e.state}
                  {e.afterSeeing && <span className="ochre"> after seeing others</span>}
                </span>
                <span className="soft">until {shownAt(e.replacedAt, 'd MMM, HH:mm')}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  )
}
