import { useRef, useState, type PointerEvent } from 'react'
import type { RubricCriterion } from '#contract'
import { pointsGiven } from '../../parts/format'

const W = 820
const EDGE = 24
const LINE = 24
const H = 36

/** A criterion's ruler whose stops are pulled with the pointer or stepped with the arrow keys, between their neighbours. */
export function PullRuler({
  criterion: c,
  longest,
  step,
  onPull,
}: {
  criterion: RubricCriterion
  longest: number
  step: number
  onPull: (level: number, points: number) => void
}) {
  const svg = useRef<SVGSVGElement>(null)
  const [pulled, setPulled] = useState<{ level: number; points: number } | null>(null)
  const span = longest * 1.08
  const x = (points: number) => EDGE + (points / span) * (W - 2 * EDGE)
  const given = (p: number) => pointsGiven(c, p)
  const pointsOf = (i: number) => (pulled?.level === i ? pulled.points : c.levels[i]!.points)
  const within = (i: number, points: number) => {
    const low = c.levels[i - 1] ? c.levels[i - 1]!.points + step : 0
    const high = c.levels[i + 1] ? c.levels[i + 1]!.points - step : Infinity
    return Math.min(high, Math.max(low, Math.round(points / step) * step))
  }
  const at = (e: PointerEvent) => {
    const box = svg.current!.getBoundingClientRect()
    return ((((e.clientX - box.left) / box.width) * W - EDGE) / (W - 2 * EDGE)) * span
  }
  const end = Math.max(0, ...c.levels.map((l, i) => Math.max(pointsOf(i), l.to ?? 0)))
  return (
    <svg
      ref={svg}
      className="ruler pull"
      viewBox={`0 0 ${W} ${H}`}
      width="100%"
      style={{ maxWidth: W }}
      role="group"
      aria-label={`Ruler of ${c.title}`}
    >
      <line x1={x(0)} x2={x(end)} y1={LINE} y2={LINE} />
      {c.ranges &&
        c.levels.map(
          (l, i) =>
            l.to !== undefined &&
            l.to > l.points && <line key={i} className="range" x1={x(pointsOf(i))} x2={x(l.to)} y1={LINE} y2={LINE} />,
        )}
      {c.levels.map((l, i) => (
        <g
          key={i}
          className="stop"
          role="slider"
          tabIndex={0}
          aria-label={`Level ${i + 1} of ${c.title}`}
          aria-valuenow={pointsOf(i)}
          aria-valuemin={0}
          aria-valuemax={longest}
          aria-valuetext={`${given(pointsOf(i))} points, ${l.words}`}
          onKeyDown={(e) => {
            const by = { ArrowLeft: -step, ArrowDown: -step, ArrowRight: step, ArrowUp: step, PageDown: -2, PageUp: 2 }[e.key]
            if (by === undefined || e.altKey) return
            e.preventDefault()
            e.stopPropagation()
            const points = within(i, l.points + by)
            if (points !== l.points) onPull(i, points)
          }}
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId)
            setPulled({ level: i, points: l.points })
          }}
          onPointerMove={(e) => pulled?.level === i && setPulled({ level: i, points: within(i, at(e)) })}
          onPointerUp={() => {
            if (pulled && pulled.points !== l.points) onPull(i, pulled.points)
            setPulled(null)
          }}
        >
          <rect x={x(pointsOf(i)) - 12} y={0} width={24} height={H} fill="transparent" />
          <line x1={x(pointsOf(i))} x2={x(pointsOf(i))} y1={LINE - 7} y2={LINE + 7} strokeWidth="2" />
          <text x={x(pointsOf(i))} y={12} textAnchor="middle" className="figure">
            {given(pointsOf(i))}
          </text>
        </g>
      ))}
    </svg>
  )
}
