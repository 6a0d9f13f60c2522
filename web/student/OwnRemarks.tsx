import type { OwnWork } from '#contract'
import { numeral } from '../parts/format'

/** What was remarked on a student's own work, reading by reading; who read it is not told. */
export function OwnRemarks({ work: { assessment, remarks } }: { work: OwnWork['work'][number] }) {
  return (
    <section aria-label={`What was remarked on your ${assessment}`}>
      <h2>What was remarked on your {assessment}</h2>
      {remarks.map((r, i) => (
        <article key={i} className="own-remarks">
          {remarks.length > 1 && <h3>Reading {i + 1}</h3>}
          {r.comment && (
            <p className="student-words" dir="auto">
              {r.comment}
            </p>
          )}
          {r.parts.length > 0 && (
            <dl>
              {r.parts.map((p) => (
                <div key={p.title}>
                  <dt>
                    {p.title}
                    {p.points && (
                      <span className="number fw-normal">
                        {' '}
                        {p.points.takenOff && p.points.given > 0 ? `−${numeral(p.points.given)}` : numeral(p.points.given)}{' '}
                        <span className="soft">
                          {p.points.takenOff ? `of at most −${numeral(p.points.of)}` : `of ${numeral(p.points.of)}`}
                        </span>
                      </span>
                    )}
                  </dt>
                  <dd dir="auto">{p.words}</dd>
                </div>
              ))}
            </dl>
          )}
        </article>
      ))}
    </section>
  )
}
