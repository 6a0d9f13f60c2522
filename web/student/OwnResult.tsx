import type { OwnWork } from '#contract'
import { fixed, numeral } from '../parts/format'
import styles from './student.module.css'

/** A student's confirmed result, why it is that, and what stood before it. */
export function OwnResult({ result: r, earlier }: { result: NonNullable<OwnWork['result']>; earlier: OwnWork['earlier'] }) {
  return (
    <section aria-label="Your result" className={styles.ownResult}>
      <h2>
        {r.grade === null ? 'Your result is not complete yet' : `Your result: ${r.grade}`}
        {r.percent !== null && `, ${numeral(r.percent)}%`}
      </h2>
      <p className="soft">
        {r.grade === null
          ? `${r.pending} of your works are still pending; your grade comes with a later issue.`
          : `Confirmed, issue ${r.issue}.`}
      </p>
      <h3>Why</h3>
      {r.components.map((c) => (
        <details key={c.title}>
          <summary>
            <span>{c.title}</span>
            <b className="number">{c.percent === null ? 'nothing yet' : `${fixed(c.percent)}%`}</b>
          </summary>
          <ul>
            {c.words.map((w) => (
              <li key={w}>{w}</li>
            ))}
          </ul>
        </details>
      ))}
      <ol className="mt-2">
        {r.steps.map((s) => (
          <li key={s}>{s}</li>
        ))}
      </ol>
      {earlier.map((e) => (
        <div key={e.issue}>
          <h3>
            Before, in issue {e.issue}: {e.grade ?? 'no grade yet'}
            {e.percent !== null && `, ${numeral(e.percent)}%`}
          </h3>
          <p className="soft">{e.changed.length > 0 ? e.changed.join(' ') : 'The same for you as what came after it.'}</p>
        </div>
      ))}
    </section>
  )
}
