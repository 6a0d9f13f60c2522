import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import type { Library } from '#contract'
import { numeral } from '../../parts/format'

const W = 820
const PAD = 30
const STEPS = ['var(--step-1)', 'var(--step-2)', 'var(--step-3)', 'var(--step-4)', 'var(--step-5)']

/** A scale on one axis: each label's percent as a stop, and the band of percents that are read back as it. */
export function ScaleAxis({
  title,
  labels,
  bare = false,
  onPull,
}: {
  title: string
  labels: Library['scales'][number]['labels']
  /** The axis alone, without the table beneath. */
  bare?: boolean
  /** Told when a label is pulled or stepped; without it nothing can be. */
  onPull?: (at: number, percent: number) => void
}) {
  const svg = useRef<SVGSVGElement>(null)
  const [pulled, setPulled] = useState<{ place: number; percent: number } | null>(null)
  const percentOf = (l: (typeof labels)[number]) => (pulled && labels[pulled.place] === l ? pulled.percent : l.percent)
  const percentAt = (e: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect()
    const at = (((e.clientX - box.left) / box.width) * W - PAD) / (W - 2 * PAD)
    return Math.round(Math.max(0, Math.min(1, at)) * 100)
  }
  const x = (v: number) => PAD + (v / 100) * (W - 2 * PAD)
  const sorted = [...labels].sort((a, b) => a.threshold - b.threshold)
  const upTo = (i: number) => sorted[i + 1]?.threshold ?? 100
  const words = sorted.map((l) => `${l.label} is ${numeral(l.percent)} percent`).join(', ')
  return (
    <>
      <svg
        ref={svg}
        className="ruler mt-4"
        viewBox={`0 0 ${W} ${bare ? 100 : 120}`}
        width="100%"
        role={onPull ? 'group' : 'img'}
        aria-label={`${title}: ${words}`}
      >
        {sorted.map((l, i) => (
          <rect
            key={i}
            x={x(l.threshold)}
            width={Math.max(0, x(upTo(i)) - x(l.threshold))}
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
        {sorted.map((l) => {
          const at = labels.indexOf(l)
          const pull = onPull && {
            className: 'stop',
            role: 'slider',
            tabIndex: 0,
            'aria-label': `${l.label} stands for`,
            'aria-valuenow': percentOf(l),
            'aria-valuemin': 0,
            'aria-valuemax': 100,
            onKeyDown: (e: KeyboardEvent) => {
              const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, PageDown: -5, PageUp: 5 }[e.key]
              if (by === undefined) return
              e.preventDefault()
              e.stopPropagation()
              onPull(at, Math.max(0, Math.min(100, l.percent + by)))
            },
            onPointerDown: (e: PointerEvent<SVGGElement>) => {
              e.currentTarget.setPointerCapture(e.pointerId)
              setPulled({ place: at, percent: l.percent })
            },
            onPointerMove: (e: PointerEvent) => pulled?.place === at && setPulled({ place: at, percent: percentAt(e) }),
            onPointerUp: () => {
              if (pulled && pulled.percent !== l.percent) onPull(at, pulled.percent)
              setPulled(null)
            },
          }
          return (
            <g key={at} {...pull}>
              {onPull && <rect x={x(percentOf(l)) - 14} y="2" width="28" height="82" fill="transparent" />}
              <line x1={x(percentOf(l))} x2={x(percentOf(l))} y1="40" y2="80" strokeWidth="2.5" />
              <text x={x(percentOf(l))} y="16" textAnchor="middle" className="figure">
                {l.label}
              </text>
              <text x={x(percentOf(l))} y="33" textAnchor="middle">
                {numeral(percentOf(l))}
              </text>
            </g>
          )
        })}
      </svg>
      {!bare && (
        <table className="grid mt-3" style={{ maxWidth: 520 }}>
          <thead>
            <tr>
              <th>label</th>
              <th className="number">stands for</th>
              <th className="number">read back from</th>
            </tr>
          </thead>
          <tbody>
            {[...sorted].reverse().map((l) => (
              <tr key={l.label}>
                <td className="fw-semibold">{l.label}</td>
                <td className="number">{numeral(l.percent)}%</td>
                <td className="number soft">{numeral(l.threshold)}%</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </>
  )
}
