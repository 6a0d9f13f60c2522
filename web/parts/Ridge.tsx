import { memo, useMemo } from 'react'
import {
  Area,
  ComposedChart,
  ReferenceLine,
  ResponsiveContainer,
  Scatter,
  XAxis,
  YAxis,
  ZIndexLayer,
  useXAxisScale,
  useYAxisScale,
} from 'recharts'
import { density, type Description } from '#core/compare'
import { RIDGE_POINTS } from './ridge-points'

interface Props {
  id: string
  people: { id: string; value: number }[]
  figures: Description
  from: number
  to: number
  /** Height of the tallest ridge beside it, so that rows compare. */
  tallest: number
  /** A dotted line to hold them all against. */
  level: number | null
  passMark: number | null
  chosen: boolean
  onPick: (id: string, value: number) => void
}

const H = 56
/** About as wide as it is drawn. */
const PIXELS = 640
/** Room under the line for the dots, as a part of the tallest ridge. */
const UNDER = 0.3

/** One row of a comparison: the shape, quartiles, median, and a dot a person. */
export const Ridge = memo(function Ridge({ id, people, figures, from, to, tallest, level, passMark, chosen, onPick }: Props) {
  const shape = useMemo(
    () =>
      density(
        people.map((p) => p.value),
        { from, to, points: RIDGE_POINTS },
      ),
    [people, from, to],
  )
  const dots = useMemo(() => {
    // Two within a pixel are one to the eye, and thousands of circles take seconds to draw.
    const seen = new Map(people.map((p) => [Math.round(((p.value - from) / (to - from)) * PIXELS), p.value]))
    return [...seen.values()].map((x) => ({ x, y: -tallest * UNDER * 0.55 }))
  }, [people, tallest, from, to])
  const fails = (v: number) => passMark !== null && v < passMark
  return (
    <ResponsiveContainer width="100%" height={H} initialDimension={{ width: 430, height: H }}>
      <ComposedChart margin={{ top: 4, right: 0, bottom: 0, left: 0 }} accessibilityLayer={false}>
        <XAxis type="number" dataKey="x" domain={[from, to]} hide allowDataOverflow />
        <YAxis type="number" domain={[-tallest * UNDER, tallest]} hide allowDataOverflow />
        {level !== null && <ReferenceLine x={level} stroke="var(--soft-ink)" strokeDasharray="1 3" ifOverflow="visible" />}
        <Area
          data={shape}
          dataKey="y"
          type="monotone"
          baseValue={0}
          stroke="var(--ink)"
          strokeWidth={1}
          fill={chosen ? 'var(--step-2)' : 'var(--sand)'}
          isAnimationActive={false}
          activeDot={false}
        />
        <ZIndexLayer zIndex={700}>
          <Quartiles figures={figures} />
        </ZIndexLayer>
        <Scatter
          data={dots}
          dataKey="y"
          isAnimationActive={false}
          onClick={(p: { payload?: { x: number } }) => p.payload && onPick(id, p.payload.x)}
          shape={(p: { cx?: number; cy?: number; payload?: { x: number } }) => (
            <circle
              cx={p.cx}
              cy={p.cy}
              r={1.9}
              fill={fails(p.payload?.x ?? 0) ? 'var(--brick)' : 'var(--ink)'}
              opacity={0.8}
              style={{ cursor: 'pointer' }}
            />
          )}
        />
      </ComposedChart>
    </ResponsiveContainer>
  )
})

function Quartiles({ figures: { q1, median, q3 } }: { figures: Description }) {
  const x = useXAxisScale()
  const scaleY = useYAxisScale()
  if (!x || !scaleY || q1 === null || median === null || q3 === null) return null
  const y = scaleY(0)!
  return (
    <g>
      <line x1={x(q1)} x2={x(q3)} y1={y} y2={y} stroke="var(--pine)" strokeWidth={4} />
      <line x1={x(median)} x2={x(median)} y1={y - 6} y2={y + 5} stroke="var(--ink)" strokeWidth={2} />
    </g>
  )
}
