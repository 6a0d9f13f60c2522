import type { ReactNode } from 'react'
import type { Decision, IssueHead } from '#contract'
import { counted, fixed, numeral, shownAt, signed } from '../../../parts/format'
import { KeptSentence } from '../../../parts/KeptSentence'
import type { ReportFigures } from './figures'

export interface ReportOf {
  figures: ReportFigures
  decisions: readonly Decision[]
  /** The issue that these figures are of; null where nobody signed them. */
  issue: IssueHead | null
  /** Markers by number in place of their names. */
  byNumber: boolean
}

export const CHAPTERS = {
  figures: 'Figures by section',
  marking: 'Markers and agreement',
  decided: 'What was decided, and why',
  rescaled: 'Rescaling',
  boundaries: 'Boundaries, and how sure',
  conditions: 'Conditions',
  open: 'Open cases',
  signatures: 'Signatures',
} as const
export type Chapter = keyof typeof CHAPTERS

const span = (interval: readonly [number, number] | null) => (interval ? `${signed(interval[0])} to ${signed(interval[1])}` : '')

/** Each chapter of the report, from the figures it is about. */
export const CHAPTER: Record<Chapter, (of: ReportOf) => ReactNode> = {
  figures: ({ figures: f }) => (
    <>
      <p>
        {f.finals} of {counted(f.students, 'student')} {f.students === 1 ? 'has' : 'have'} a final percent: mean {fixed(f.mean)}, standard
        deviation {fixed(f.sd)}. “Against the others” is the difference of a section’s mean from that of all other sections, with its 95%
        interval.
      </p>
      <table className="grid">
        <thead>
          <tr>
            <th>section</th>
            <th className="number">n</th>
            <th className="number">mean</th>
            <th className="number">against the others</th>
            {f.counts.map((c) => (
              <th key={c.grade} className="number">
                {c.grade}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {f.sections.map((s) => (
            <tr key={s.name}>
              <td>{s.name}</td>
              <td className="number">{s.n}</td>
              <td className="number">{fixed(s.mean)}</td>
              <td className="number">
                {s.difference === null ? '' : signed(s.difference)} <span className="soft small">{span(s.interval)}</span>
              </td>
              {s.counts.map((c, i) => (
                <td key={i} className="number">
                  {c}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  ),
  marking: ({ figures: f, byNumber }) => (
    <>
      <table className="grid">
        <thead>
          <tr>
            <th>assessment</th>
            <th className="number">marked</th>
            <th className="number">read twice or more</th>
            <th className="number">of these settled</th>
          </tr>
        </thead>
        <tbody>
          {f.assessments.map((a) => (
            <tr key={a.title}>
              <td>{a.title}</td>
              <td className="number">{a.marked}</td>
              <td className="number">{a.twice}</td>
              <td className="number">{a.settled}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {f.assessments
        .filter((a) => a.markers.length > 0)
        .map((a) => (
          <p key={a.title} className="mt-2">
            <b>{a.title}</b>, leans in marks with 95% intervals:{' '}
            {a.markers.map((m) => `${byNumber ? `marker ${m.place + 1}` : m.name} ${signed(m.lean)} (${span(m.interval)})`).join('; ')}.
          </p>
        ))}
    </>
  ),
  decided: ({ decisions }) => {
    const inForce = decisions.filter((d) => !d.withdrawn && d.kind !== 'confirm' && d.kind !== 'reopen')
    return inForce.length === 0 ? (
      <p>Nothing was decided but what the plan says.</p>
    ) : (
      <table className="grid">
        <thead>
          <tr>
            <th>when</th>
            <th>what</th>
            <th>why</th>
            <th>who</th>
          </tr>
        </thead>
        <tbody>
          {inForce.map((d) => (
            <tr key={d.id}>
              <td className="text-nowrap">{shownAt(d.at, 'd MMM')}</td>
              <td>
                <KeptSentence>{d.summary}</KeptSentence>
              </td>
              <td>{d.reason}</td>
              <td className="text-nowrap">{d.by}</td>
            </tr>
          ))}
        </tbody>
      </table>
    )
  },
  rescaled: ({ figures: f }) =>
    f.rescaled.length === 0 ? (
      <p>No mark was rescaled.</p>
    ) : (
      <ol>
        {f.rescaled.map((r, i) => (
          <li key={i}>{r}</li>
        ))}
      </ol>
    ),
  boundaries: ({ figures: f }) => (
    <>
      <p>
        {f.typical === null
          ? 'How far a reading is off is not known, so nothing is said of how sure the grades are.'
          : `A course percent is off by about ±${fixed(f.typical)}, as far as readings tell.`}
      </p>
      <table className="grid">
        <thead>
          <tr>
            <th>grade</th>
            <th className="number">begins at</th>
            <th className="number">students</th>
            <th className="number">share</th>
            <th className="number">could belong on the other side of its line</th>
          </tr>
        </thead>
        <tbody>
          {f.counts.map((c) => (
            <tr key={c.grade}>
              <td>{c.grade}</td>
              <td className="number">{numeral(c.from)}</td>
              <td className="number">{c.count}</td>
              <td className="number">{c.percent}%</td>
              <td className="number">{c.wrongSide === null ? '' : `about ${fixed(c.wrongSide)}`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  ),
  conditions: ({ figures: f }) =>
    f.conditions.length === 0 ? (
      <p>No grade asks for anything but its percent.</p>
    ) : (
      <ul>
        {f.conditions.map((c) => (
          <li key={c.words}>
            {c.words}: holds {c.held} back
          </li>
        ))}
      </ul>
    ),
  open: ({ figures: f }) =>
    f.pending.length === 0 ? (
      <p>Nobody is without a final percent.</p>
    ) : (
      <p>Without a final percent: {f.pending.map((p) => `${p.section} ${p.count}`).join(', ')}.</p>
    ),
  signatures: ({ issue: latest }) => {
    return !latest ? (
      <p>Not signed: these figures are the course as it stands now.</p>
    ) : (
      <>
        <p>
          Issue {latest.number}, frozen {shownAt(latest.at, 'd MMMM yyyy, HH:mm')}, content hash{' '}
          <code className="text-break">{latest.hash}</code>.
        </p>
        <ul>
          {latest.signatures.map((s) => (
            <li key={s.by}>
              {s.by}, {s.role}, {shownAt(s.at, 'd MMMM yyyy')}: {s.statement}
            </li>
          ))}
          {latest.objections.map((o) => (
            <li key={o.id}>
              {o.by}, {o.role}, objects: {o.reason}
              {o.takenBack && ' (taken back)'}
            </li>
          ))}
          {latest.waitsFor.map((r, i) => (
            <li key={i}>{r}: has not signed yet</li>
          ))}
        </ul>
      </>
    )
  },
}
