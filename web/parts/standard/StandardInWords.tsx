import { rubricMaximum } from '#core/scales'
import type { RubricBody, ScaleBody, SchemeBody } from '#contract'
import { numeral, pointsGiven } from '../format'
import { LevelWords } from '../LevelWords'
import { BandsInWords } from './BandsInWords'
import styles from './standard.module.css'

export type StandardShown = { kind: 'rubric'; body: RubricBody } | { kind: 'scheme'; body: SchemeBody } | { kind: 'scale'; body: ScaleBody }

/** A rubric, mark scheme or scale as students see it: words and points, no notes for markers. */
export function StandardInWords({ standard }: { standard: StandardShown }) {
  return (
    <>
      {standard.kind === 'rubric' && (
        <>
          <p className="soft">{numeral(rubricMaximum(standard.body))} points in all.</p>
          {standard.body.criteria.map((c) => (
            <table className={styles.sheetCriterion} key={c.id}>
              <caption>
                {c.title}
                {c.penalty && ' (taken off)'}
                {c.description && (
                  <span className="soft small fw-normal d-block" dir="auto">
                    {c.description}
                  </span>
                )}
              </caption>
              <tbody>
                <tr>
                  {(standard.body.descending ? c.levels.toReversed() : c.levels).map((l, i) => (
                    <td key={i} style={{ width: `${100 / c.levels.length}%` }}>
                      <b>
                        {pointsGiven(c, l.points)}
                        {c.ranges && l.to !== undefined && l.to !== l.points && `–${numeral(l.to)}`}
                      </b>{' '}
                      <span dir="auto">
                        <LevelWords level={l} />
                      </span>
                    </td>
                  ))}
                </tr>
              </tbody>
            </table>
          ))}
          <BandsInWords bands={standard.body.bands} />
        </>
      )}
      {standard.kind === 'scheme' && (
        <table className="grid">
          <tbody>
            {standard.body.criteria.map((c) => (
              <tr key={c.id}>
                <td className="fw-semibold">{c.title}</td>
                <td>{c.words}</td>
                <td className="number">{numeral(c.max)} points</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {standard.kind === 'scale' && (
        <table className="grid" style={{ maxWidth: 420 }}>
          <tbody>
            {[...standard.body.labels].reverse().map((l) => (
              <tr key={l.label}>
                <td className="fw-semibold">{l.label}</td>
                <td className="number">{numeral(l.percent)}%</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  )
}
