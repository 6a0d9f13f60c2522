import { useMemo, useRef } from 'react'
import {
  Bar,
  BarChart,
  ComposedChart,
  Line,
  ResponsiveContainer,
  XAxis,
  YAxis,
  CartesianGrid,
  ZIndexLayer,
  useXAxisInverseScale,
  useXAxisScale,
  useYAxisInverseScale,
  useYAxisScale,
} from 'recharts'
import { histogram } from '#core/compare'
import { numeral } from '../../parts/format'
import { tickStep } from '../../parts/ticks'
import { movePoint } from './move-point'
import styles from './rescale.module.css'

interface Props {
  outOf: number
  before: number[]
  after: number[]
  /** Marks of the group that is matched, drawn as an outline beside what comes out. */
  like: number[] | null
  unit: 'marks' | 'percent'
  /** Mark → mark along the whole range. */
  line: { x: number; y: number }[] | null
  /** Where each mark goes, as dots. */
  dots: { x: number; y: number }[]
  points: [number, number][] | null
  chosen: number
  onChoose: (at: number) => void
  onPull: (points: [number, number][]) => void
  onLetGo: (points: [number, number][]) => void
  disabled: boolean
}

const LEFT = 40
const EDGE = 76

/** The map from mark to mark, with the distribution before it below and the one after it at the side. */
export function CurveChart(props: Props) {
  const { outOf, before, after, like, unit, line, dots, points } = props
  const step = tickStep(outOf)
  const top = Math.max(outOf, ...after)
  const ticks = Array.from({ length: Math.floor(top / step) + 1 }, (_, i) => i * step)
  const bins = (values: number[]) =>
    histogram(values, { from: 0, to: top, width: step / 5 }).bins.map((b) => ({ middle: (b.from + b.to) / 2, n: b.count }))
  const below = useMemo(() => bins(before), [before, top]) // eslint-disable-line react-hooks/exhaustive-deps
  const beside = useMemo(() => bins(after), [after, top]) // eslint-disable-line react-hooks/exhaustive-deps
  // Where nothing is changed.
  const alike = useMemo(() => [0, top].map((mark) => ({ x: mark, y: mark })), [top])
  const most = Math.max(1, ...below.map((b) => b.n), ...beside.map((b) => b.n))
  // As a share of those that come out, so that a group of another size can be held against them.
  const outline = useMemo(
    () => (like && like.length > 0 ? bins(like).map((b) => ({ middle: b.middle, n: (b.n * after.length) / like.length })) : null),
    [like, after.length, top], // eslint-disable-line react-hooks/exhaustive-deps
  )
  return (
    <div className={styles.curve} style={{ gridTemplateColumns: `minmax(0, 1fr) ${EDGE}px`, gridTemplateRows: `minmax(0, 1fr) ${EDGE}px` }}>
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: 480, height: 440 }}>
        <ComposedChart margin={{ top: 8, right: 8, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <CartesianGrid stroke="var(--rule)" />
          <XAxis type="number" dataKey="x" domain={[0, top]} ticks={ticks} stroke="var(--ink)" tickLine={false} height={24} />
          <YAxis
            type="number"
            domain={[0, top]}
            ticks={ticks}
            width={LEFT}
            stroke="var(--ink)"
            tickLine={false}
            label={{ value: 'rescaled', angle: -90, position: 'insideLeft', fill: 'var(--ink)' }}
          />
          <Line
            data={alike}
            dataKey="y"
            dot={false}
            activeDot={false}
            stroke="var(--soft-ink)"
            strokeDasharray="1 4"
            isAnimationActive={false}
          />
          <Ways dots={dots} line={line} />
          {points && (
            <ZIndexLayer zIndex={2000}>
              <PullPoints {...props} points={points} />
            </ZIndexLayer>
          )}
        </ComposedChart>
      </ResponsiveContainer>
      <ResponsiveContainer width="100%" height="100%" initialDimension={{ width: EDGE, height: 440 }}>
        <ComposedChart
          layout="vertical"
          data={beside}
          margin={{ top: 8, right: 2, bottom: 24, left: 0 }}
          barCategoryGap={1}
          accessibilityLayer={false}
        >
          <XAxis type="number" domain={[0, most]} hide allowDataOverflow />
          <YAxis type="number" dataKey="middle" domain={[0, top]} reversed hide />
          <Bar dataKey="n" fill="var(--step-2)" stroke="var(--ink)" strokeWidth={0.7} isAnimationActive={false} barSize={6} />
          {outline && (
            <Line
              data={outline}
              dataKey="n"
              type="step"
              dot={false}
              activeDot={false}
              stroke="var(--ochre)"
              strokeWidth={1.5}
              isAnimationActive={false}
            />
          )}
        </ComposedChart>
      </ResponsiveContainer>
      <div>
        <ResponsiveContainer width="100%" height={EDGE - 20} initialDimension={{ width: 480, height: EDGE - 20 }}>
          <BarChart data={below} margin={{ top: 0, right: 8, bottom: 0, left: LEFT }} barCategoryGap={1} accessibilityLayer={false}>
            <XAxis type="number" dataKey="middle" domain={[0, top]} hide />
            <YAxis domain={[0, most]} reversed hide />
            <Bar dataKey="n" fill="var(--sand)" stroke="var(--ink)" strokeWidth={0.7} isAnimationActive={false} barSize={8} />
          </BarChart>
        </ResponsiveContainer>
        <div className="soft small text-center">
          {unit === 'percent' ? 'course percent as it goes in' : `as it goes in, out of ${numeral(outOf)}`}
          {outline && <span className="ochre"> · outline: the group that is matched</span>}
        </div>
      </div>
    </div>
  )
}

const DOT = 2

/** Where each mark goes, and the line they go by, as two paths: they follow a point that is pulled, and hundreds of elements do not. */
function Ways({ dots, line }: Pick<Props, 'dots' | 'line'>) {
  const scaleX = useXAxisScale()
  const scaleY = useYAxisScale()
  if (!scaleX || !scaleY) return null
  const at = (p: { x: number; y: number }) => `${scaleX(p.x)} ${scaleY(p.y)}`
  return (
    <g pointerEvents="none" fill="none" strokeLinecap="round">
      <path d={dots.map((p) => `M${at(p)}h0`).join('')} stroke="var(--ink)" strokeWidth={2 * DOT} opacity={0.35} />
      {line && line.length > 0 && <path d={`M${line.map(at).join('L')}`} stroke="var(--pine)" strokeWidth={2.5} />}
    </g>
  )
}

/** The points: pulled with the mouse, or walked with the arrow keys, by halves. */
function PullPoints({ points, outOf, chosen, onChoose, onPull, onLetGo, disabled }: Props & { points: [number, number][] }) {
  const scaleX = useXAxisScale()
  const scaleY = useYAxisScale()
  const markAt = useXAxisInverseScale()
  const resultAt = useYAxisInverseScale()
  const latest = useRef(points)
  latest.current = points
  if (!scaleX || !scaleY || !markAt || !resultAt) return null
  const grain = outOf >= 10 ? 0.5 : 0.1
  const held = points[chosen]
  return (
    <g>
      {held && (
        <g pointerEvents="none">
          <path
            d={`M${scaleX(held[0])} ${scaleY(0)}V${scaleY(held[1])}H${scaleX(outOf)}`}
            fill="none"
            stroke="var(--pine)"
            strokeDasharray="3 3"
          />
          <text
            x={scaleX(held[0])! + (held[0] > outOf * 0.7 ? -10 : 10)}
            y={scaleY(held[1])! + 22}
            textAnchor={held[0] > outOf * 0.7 ? 'end' : 'start'}
            fill="var(--pine)"
            fontWeight={600}
            fontSize={13}
          >
            {numeral(held[0])} becomes {numeral(held[1])}
          </text>
        </g>
      )}
      {points.map((p, i) => (
        <rect
          key={i}
          x={scaleX(p[0])! - 6}
          y={scaleY(p[1])! - 6}
          width={12}
          height={12}
          className={styles.point}
          fill={i === chosen ? 'var(--pine)' : 'var(--sheet)'}
          stroke="var(--pine)"
          strokeWidth={2}
          tabIndex={disabled ? -1 : 0}
          role="slider"
          aria-label={`Point ${i + 1}: ${numeral(p[0])}`}
          aria-valuenow={p[1]}
          aria-valuemin={0}
          aria-valuemax={outOf}
          aria-valuetext={`${numeral(p[0])} becomes ${numeral(p[1])}`}
          onFocus={() => onChoose(i)}
          onKeyDown={(e) => {
            const by = {
              ArrowUp: [0, grain],
              ArrowDown: [0, -grain],
              ArrowLeft: [-grain, 0],
              ArrowRight: [grain, 0],
              PageUp: [0, 10 * grain],
              PageDown: [0, -10 * grain],
            }[e.key]
            if (!by || disabled) return
            e.preventDefault()
            e.stopPropagation()
            onLetGo(movePoint(points, i, [p[0] + by[0]!, p[1] + by[1]!], outOf, grain))
          }}
          onPointerDown={(e) => {
            if (disabled) return
            const target = e.currentTarget
            const box = target.ownerSVGElement!.getBoundingClientRect()
            target.setPointerCapture(e.pointerId)
            onChoose(i)
            let moved = false
            const place = (m: PointerEvent) =>
              movePoint(latest.current, i, [Number(markAt(m.clientX - box.left)), Number(resultAt(m.clientY - box.top))], outOf, grain)
            const pull = (m: Event) => {
              moved = true
              onPull(place(m as PointerEvent))
            }
            target.addEventListener('pointermove', pull)
            target.addEventListener(
              'pointerup',
              (u) => {
                target.removeEventListener('pointermove', pull)
                if (moved) onLetGo(place(u as PointerEvent))
              },
              { once: true },
            )
          }}
        />
      ))}
    </g>
  )
}
