import { ComposedChart, Line, ReferenceArea, ReferenceLine, ResponsiveContainer, Scatter, XAxis, YAxis } from 'recharts'
import { fixed } from '../../../parts/format'
import type { Suggested } from './figures'
import { ChartTable } from '../../../parts/ChartTable'
import { inSteps } from '../../../parts/in-steps'

const H = 260
const STEPS = 60
const TENS = Array.from({ length: 21 }, (_, i) => i * 5)

/** Who could and who could not by percent, with the chance that somebody could, and where it crosses one half. */
export function CouldChart({ lines, judged }: Suggested) {
  const [line] = lines
  const xs = judged.map((j) => j.x)
  const [low, high] = [Math.floor(Math.min(...xs)) - 1, Math.ceil(Math.max(...xs)) + 1]
  const { curve, band, from } = line ?? { curve: null, band: null, from: null }
  const drawn = curve
    ? Array.from({ length: STEPS + 1 }, (_, i) => {
        const x = low + (i * (high - low)) / STEPS
        return { x, y: 1 / (1 + Math.exp(-(curve.intercept + curve.slope * x))) }
      })
    : []
  const could = judged.filter((j) => j.y === 1).length
  const says =
    from == null
      ? (line?.why ?? '')
      : `${could} could, ${judged.length - could} could not; from about ${fixed(from)} on more could than not.${curve ? '' : ' Percents part the two, so the middle between them is taken.'}`
  return (
    <>
      <ResponsiveContainer width="100%" height={H} initialDimension={{ width: 830, height: H }}>
        <ComposedChart margin={{ top: 12, right: 16, bottom: 18, left: 24 }} accessibilityLayer={false} role="img" aria-label={says}>
          <XAxis
            type="number"
            dataKey="x"
            domain={[low, high]}
            ticks={TENS.filter((t) => t >= low && t <= high)}
            stroke="var(--ink)"
            label={{ value: 'course percent', position: 'insideBottom', offset: -10, fill: 'var(--soft-ink)', fontSize: 13 }}
          />
          <YAxis
            type="number"
            domain={[-0.15, 1.15]}
            ticks={[0, 1]}
            tickFormatter={(y: number) => (y === 1 ? 'could' : 'could not')}
            stroke="var(--ink)"
            width={62}
          />
          {band && <ReferenceArea x1={Math.max(low, band[0])} x2={Math.min(high, band[1])} fill="var(--bubble-wash)" fillOpacity={1} />}
          <Scatter
            data={judged}
            dataKey="y"
            isAnimationActive={false}
            shape={(p: { cx?: number; cy?: number; payload?: { y: number } }) => (
              <circle
                cx={p.cx}
                cy={p.cy}
                r={3.4}
                fill={p.payload!.y === 1 ? 'var(--ink)' : 'var(--sheet)'}
                stroke="var(--ink)"
                strokeWidth={1}
              />
            )}
          />
          {curve && (
            <Line data={drawn} dataKey="y" dot={false} activeDot={false} stroke="var(--pine)" strokeWidth={2} isAnimationActive={false} />
          )}
          {from != null && <ReferenceLine x={from} stroke="var(--pine)" strokeDasharray="4 3" />}
        </ComposedChart>
      </ResponsiveContainer>
      <p className="soft small mb-1">{says}</p>
      <ChartTable
        heads={['course percent', 'students', 'share of them who could']}
        rows={() =>
          inSteps(
            judged.map((j) => ({ x: j.x, y: 100 * j.y })),
            1,
          )
        }
      />
    </>
  )
}
