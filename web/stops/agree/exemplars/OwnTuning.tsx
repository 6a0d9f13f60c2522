import type { Exemplars } from '#contract'
import { counted } from '../../../parts/format'
import { Vial } from '../../../parts/Vial'
import { tuned } from '../../../parts/tuned'

/** A marker's own place: how far off on what they have read, and whether they may begin. */
export function OwnTuning({ tuning }: { tuning: Exemplars }) {
  const { exemplars, assessment, standard, mine } = tuning
  const own = exemplars.flatMap((x) => (x.own ? [{ ...x.own, exemplarId: x.id, markerId: 'me' }] : []))
  const t = tuned(tuning, own).markers[0]
  const left = exemplars.length - own.length
  return (
    <>
      <section>
        <h2>{mine === 'open' ? 'You may begin to mark' : 'Not yet open for you'}</h2>
        <p className="soft">
          {left > 0
            ? `${counted(left, 'exemplar')} to read first, unseen by the others: judge each as if it were a script.`
            : mine === 'open'
              ? 'You have read all that is to be read first.'
              : 'The lead holds the marking for now and will talk with you about it.'}
        </p>
      </section>
      {t && (
        <section>
          <h2>How far you are from what was agreed</h2>
          <Vial name="You" lean={t.lean} interval={t.interval} tolerance={Math.max(assessment.tolerance, 0.5)} />
          <span className="soft small"> marks on average, + generous, − severe</span>
          {standard && standard.kind !== 'scale' && (
            <table className="grid mt-2">
              <tbody>
                {standard.body.criteria.map((c) => (
                  <tr key={c.id}>
                    <td>{c.title}</td>
                    <td>
                      <Vial
                        name={`You on ${c.title}`}
                        lean={t.criteria[c.id] ?? null}
                        interval={null}
                        tolerance={1}
                        unit={assessment.use.hidePoints ? 'levels' : 'points'}
                      />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </section>
      )}
    </>
  )
}
