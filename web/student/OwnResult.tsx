import type { OwnWork } from '#contract'
import { fixed, numeral } from '../parts/format'

/** A student's confirmed result, and how it came about. */
export function OwnResult({ result: r }: { result: NonNullable<OwnWork['result']> }) {
  return (
    <section aria-label="Your result" className="own-result">
      <h2>
        {r.grade === null ? 'Your result is not complete yet' : `Your result: ${r.grade}`}
        {r.percent !== null && `, ${numeral(r.percent)}%`}
      </h2>
      <p className="soft">
        {r.grade === null
          ? `${r.pending} of your works are still pending; your grade comes with a later issue.`
          : `Confirmed, issue ${r.issue}.${r.begins !== null && r.begins > 0 ? ` ${r.grade} begins at ${numeral(r.begins)}.` : ''}`}
      </p>
      {r.heldBy.map((c) => (
        <p key={`${c.on} ${c.atMost}`}>
          A grade above {c.atMost} asks for at least {numeral(c.least)}% in {c.on}.
        </p>
      ))}
      <table className="grid">
        <thead>
          <tr>
            <th>part</th>
            <th className="num">percent</th>
          </tr>
        </thead>
        <tbody>
          {r.components.map((c) => (
            <tr key={c.title}>
              <td>{c.title}</td>
              <td className="num">{fixed(c.percent)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
