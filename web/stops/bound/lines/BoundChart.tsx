import { curveStep, line } from 'd3-shape'
import { useMemo, useRef } from 'react'
import {
  ComposedChart,
  ReferenceArea,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  XAxis,
  YAxis,
  ZIndexLayer,
  usePlotArea,
  useXAxisInverseScale,
  useXAxisScale,
  useYAxisScale,
} from 'recharts'
import type { Boundary, CourseResult } from '#core/grades'
import { columnCounts, stackDots, type Column, type Dot } from '../../../parts/dots'
import { numeral } from '../../../parts/format'
import styles from '../bound.module.css'

interface Props {
  result: CourseResult
  /** Percents as they were before they were rescaled, drawn as an outline; null where nothing is. */
  plain?: readonly number[] | null | undefined
  /** From the best grade down; the last one begins at 0 and does not move. */
  boundaries: Boundary[]
  /** Where they are adopted. */
  adopted: Boundary[]
  /** Percent on either side of a line in which people are near it; null for nobody. */
  zone: number | null
  /** Drawn in place of the zones. */
  bands?: readonly (readonly [low: number, high: number])[]
  chosen: number
  disabled: boolean
  onChoose: (at: number) => void
  onPull: (at: number, from: number) => void
  onLetGo: (at: number, from: number) => void
  onPick: (studentId: string) => void
}

const COLUMN = 0.75
/** Above so many, people are drawn as columns and not as a dot each. */
const DOTS = 800
const NO_DOTS: Dot[] = []
const H = 262
export const GRAIN = 0.5

/** The final percents, a dot a person, with the boundaries to pull. Those near a line are hollow. */
export function BoundChart(props: Props) {
  const { result, boundaries, adopted, zone, bands, plain, chosen, onPick } = props
  const drawn = useMemo(() => {
    const people = result.students.flatMap((s) => (s.rounded === null ? [] : [{ id: s.studentId, value: s.rounded }]))
    const value = new Map(people.map((p) => [p.id, p.value]))
    const low = people.reduce((m, p) => Math.min(m, p.value), 100)
    const high = people.reduce((m, p) => Math.max(m, p.value), 100)
    const columns = people.length > DOTS ? columnsOf(people) : null
    const dots = columns ? NO_DOTS : stackDots(people, COLUMN)
    const most = columns ? columns.map((c) => c.ids.length) : dots.map((d) => d.y)
    return { dots, columns, value, from: Math.max(0, Math.min(40, Math.floor(low / 10) * 10)), to: high, top: Math.max(8, ...most) }
  }, [result])
  const movable = boundaries.slice(0, -1)
  const near = (id: string) => zone !== null && movable.some((b) => Math.abs(drawn.value.get(id)! - b.from) <= zone)
  const shaded = bands ?? (zone === null ? [] : movable.map((b) => [b.from - zone, b.from + zone] as const))
  const radius = Math.max(1.2, Math.min(4.4, (H - 80) / drawn.top / 2))
  const moved = movable.filter((b) => adopted.find((a) => a.grade === b.grade)?.from !== b.from)
  return (
    <ResponsiveContainer width="100%" height={H} initialDimension={{ width: 830, height: H }}>
      <ComposedChart margin={{ top: 30, right: 10, bottom: 0, left: 10 }} accessibilityLayer={false}>
        <XAxis
          type="number"
          dataKey="x"
          domain={[drawn.from, drawn.to]}
          ticks={Array.from({ length: 11 }, (_, i) => i * 10).filter((t) => t >= drawn.from && t <= drawn.to)}
          stroke="var(--ink)"
          allowDataOverflow
          height={24}
        />
        <YAxis type="number" domain={[0, drawn.top + 1]} hide allowDataOverflow />
        {shaded.map(([low, high], i) => (
          <ReferenceArea
            key={i}
            x1={Math.max(drawn.from, low)}
            x2={Math.min(drawn.to, high)}
            fill="var(--bubble-wash)"
            fillOpacity={1}
            ifOverflow="hidden"
          />
        ))}
        {moved.map((b) => (
          <ReferenceLine key={b.grade} x={adopted.find((a) => a.grade === b.grade)?.from} stroke="var(--soft-ink)" strokeDasharray="2 4" />
        ))}
        {plain && <Outline columns={columnCounts(plain, COLUMN, drawn.from, drawn.to)} />}
        {drawn.columns && <Columns columns={drawn.columns} near={near} />}
        <Scatter
          data={drawn.dots}
          dataKey="y"
          isAnimationActive={false}
          onClick={(p: { payload?: { id: string } }) => p.payload && onPick(p.payload.id)}
          shape={(p: { cx?: number; cy?: number; payload?: { id: string } }) => (
            <circle
              cx={p.cx}
              cy={p.cy}
              r={radius}
              fill={near(p.payload!.id) ? 'var(--sheet)' : 'var(--ink)'}
              stroke="var(--ink)"
              strokeWidth={1.2}
              style={{ cursor: 'pointer' }}
            />
          )}
        />
        <ZIndexLayer zIndex={2000}>
          <Handles {...props} boundaries={movable} chosen={chosen} low={drawn.from} />
        </ZIndexLayer>
      </ComposedChart>
    </ResponsiveContainer>
  )
}

interface PeopleColumn {
  /** Its left end, in percent. */
  from: number
  ids: string[]
}

function columnsOf(people: readonly { id: string; value: number }[]): PeopleColumn[] {
  const columns = new Map<number, string[]>()
  for (const { id, value } of people) {
    const at = Math.floor(value / COLUMN)
    const own = columns.get(at)
    if (own) own.push(id)
    else columns.set(at, [id])
  }
  return [...columns].map(([at, ids]) => ({ from: at * COLUMN, ids }))
}

/** Where percents were before they were rescaled. */
function Outline({ columns }: { columns: readonly Column[] }) {
  const x = useXAxisScale()
  const y = useYAxisScale()
  if (!x || !y) return null
  const outline = line<Column>(
    (c) => x(c.x)!,
    (c) => y(c.n)!,
  ).curve(curveStep)
  return <path d={outline(columns)!} fill="none" stroke="var(--soft-ink)" strokeDasharray="3 2" pointerEvents="none" />
}

/** Very many people: how many stand in each column, those near a line hollow on top. */
function Columns({ columns, near }: { columns: readonly PeopleColumn[]; near: (id: string) => boolean }) {
  const x = useXAxisScale()
  const y = useYAxisScale()
  if (!x || !y) return null
  return (
    <g>
      {columns.map(({ from, ids }) => {
        const [left, right] = [x(from)! + 0.5, x(from + COLUMN)! - 0.5]
        const close = ids.filter(near).length
        const [base, middle, top] = [y(0)!, y(ids.length - close)!, y(ids.length)!]
        return (
          <g key={from} stroke="var(--ink)" strokeWidth={0.8}>
            <rect x={left} y={middle} width={right - left} height={base - middle} fill="var(--ink)" />
            {close > 0 && <rect x={left} y={top} width={right - left} height={middle - top} fill="var(--sheet)" />}
          </g>
        )
      })}
    </g>
  )
}

/** The lines with their figures: pulled, or walked with the arrow keys by halves. */
function Handles({ boundaries, chosen, disabled, onChoose, onPull, onLetGo, low }: Props & { low: number }) {
  const x = useXAxisScale()
  const percentAt = useXAxisInverseScale()
  const area = usePlotArea()
  const all = useRef(boundaries)
  all.current = boundaries
  if (!x || !percentAt || !area) return null
  const snap = (v: number) => Number((Math.round(v / GRAIN) * GRAIN).toFixed(3))
  return (
    <g>
      {boundaries.map((b, i) => {
        const at = x(Math.max(low, b.from))!
        const on = i === chosen
        return (
          <g
            key={b.grade}
            className={styles.handle}
            tabIndex={disabled ? -1 : 0}
            role="slider"
            aria-label={`${b.grade} begins at`}
            aria-valuenow={b.from}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuetext={`${b.grade} begins at ${numeral(b.from)}`}
            onFocus={() => onChoose(i)}
            onKeyDown={(e) => {
              const by = { ArrowLeft: -GRAIN, ArrowRight: GRAIN, ArrowDown: -0.1, ArrowUp: 0.1, PageDown: -5, PageUp: 5 }[e.key]
              if (!by || disabled) return
              e.preventDefault()
              e.stopPropagation()
              onLetGo(i, Number((b.from + by).toFixed(3)))
            }}
            onPointerDown={(e) => {
              onChoose(i)
              if (disabled) return
              const target = e.currentTarget
              const box = target.ownerSVGElement!.getBoundingClientRect()
              target.setPointerCapture(e.pointerId)
              let moved = false
              const place = (m: Event) => snap(Number(percentAt((m as PointerEvent).clientX - box.left)))
              const pull = (m: Event) => {
                moved = true
                onPull(i, place(m))
              }
              target.addEventListener('pointermove', pull)
              target.addEventListener(
                'pointerup',
                (u) => {
                  target.removeEventListener('pointermove', pull)
                  if (moved) onLetGo(i, place(u))
                },
                { once: true },
              )
            }}
          >
            <rect x={at - 8} y={area.y - 28} width={16} height={area.height + 28} fill="transparent" />
            <line x1={at} x2={at} y1={area.y - 8} y2={area.y + area.height} stroke="var(--pine)" strokeWidth={on ? 3 : 1.8} />
            <rect x={at - 28} y={area.y - 28} width={56} height={20} fill={on ? 'var(--pine)' : 'var(--sheet)'} stroke="var(--pine)" />
            <text x={at} y={area.y - 13.5} textAnchor="middle" fontSize={13} fontWeight={600} fill={on ? 'var(--on-pine)' : 'var(--ink)'}>
              {b.from.toFixed(1)}
            </text>
          </g>
        )
      })}
    </g>
  )
}
