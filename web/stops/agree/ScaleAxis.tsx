import type { Library } from '#contract'
import { plain } from '../../parts/format'

const W = 820
const PAD = 30
const STEPS = ['var(--step-1)', 'var(--step-2)', 'var(--step-3)', 'var(--step-4)', 'var(--step-5)']

/** A scale on one axis: each label's percent as a stop, and the band of percents that are read back as it. */
export function ScaleAxis({ title, labels }: { title: string; labels: Library['scales'][number]['labels'] }) {
  const x = (v: number) => PAD + (v / 100) * (W - 2 * PAD)
  const sorted = [...labels].sort((a, b) => a.threshold - b.threshold)
  const upTo = (i: number) => sorted[i + 1]?.threshold ?? 100
  const words = sorted.map((l) => `${l.label} is ${plain(l.percent)} percent`).join(', ')
  return (
    <>
      <svg className="ruler mt-4" viewBox={`0 0 ${W} 120`} width="100%" role="img" aria-label={`${title}: ${words}`}>
        {sorted.map((l, i) => (
          <rect
            key={l.label}
            x={x(l.threshold)}
            width={x(upTo(i)) - x(l.threshold)}
            y="52"
            height="22"
            fill={STEPS[Math.min(4, Math.floor((i * 5) / sorted.length))]}
            stroke="var(--paper)"
          />
        ))}
        <line x1={x(0)} x2={x(100)} y1="74" y2="74" />
        {[0, 20, 40, 60, 80, 100].map((t) => (
          <g key={t}>
            <line x1={x(t)} x2={x(t)} y1="74" y2="79" />
            <text x={x(t)} y="94" textAnchor="middle" className="words">
              {t}
            </text>
          </g>
        ))}
        {sorted.map((l) => (
          <g key={l.label}>
            <line x1={x(l.percent)} x2={x(l.percent)} y1="40" y2="80" strokeWidth="2.5" />
            <text x={x(l.percent)} y="16" textAnchor="middle" className="figure">
              {l.label}
            </text>
            <text x={x(l.percent)} y="33" textAnchor="middle">
              {plain(l.percent)}
            </text>
          </g>
        ))}
      </svg>
      <table className="grid mt-3" style={{ maxWidth: 520 }}>
        <thead>
          <tr>
            <th>label</th>
            <th className="num">stands for</th>
            <th className="num">read back from</th>
          </tr>
        </thead>
        <tbody>
          {[...sorted].reverse().map((l) => (
            <tr key={l.label}>
              <td className="fw-semibold">{l.label}</td>
              <td className="num">{plain(l.percent)}%</td>
              <td className="num soft">{plain(l.threshold)}%</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  )
}
