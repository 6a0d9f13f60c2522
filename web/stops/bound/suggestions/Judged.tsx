import { ComposedChart, ReferenceLine, ResponsiveContainer, Scatter, XAxis, YAxis } from 'recharts'
import { fixed, numeral } from '../../../parts/format'
import type { Suggested } from './figures'
import { ChartTable } from '../../../parts/ChartTable'
import { inSteps } from '../../../parts/in-steps'

const H = 300
const TENS = Array.from({ length: 11 }, (_, i) => i * 10)

/** Percent against judgement, with the line through them and what it gives at the border. */
export function Judged({ figures: { lines, judged }, borderline }: { figures: Suggested; borderline: number }) {
  const [line] = lines
  const curve = line?.curve
  const xs = judged.map((j) => j.x)
  const [low, high] = [Math.min(...xs, borderline), Math.max(...xs, borderline)]
  const at = (x: number) => curve!.intercept + curve!.slope * x
  const says =
    line?.from == null
      ? (line?.why ?? '')
      : `Judged ${numeral(borderline)}%, a student stands at about ${fixed(line.from)}; ${line.n} were judged.`
  return (
    <>
      <ResponsiveContainer width="100%" height={H} initialDimension={{ width: 830, height: H }}>
        <ComposedChart margin={{ top: 8, right: 16, bottom: 18, left: 0 }} accessibilityLayer={false} role="img" aria-label={says}>
          <XAxis
            type="number"
            dataKey="x"
            domain={[Math.max(0, low - 4), Math.min(100, high + 4)]}
            ticks={TENS.filter((t) => t >= low - 4 && t <= high + 4)}
            stroke="var(--ink)"
            label={{
              value: 'judgement, percent of its scale',
              position: 'insideBottom',
              offset: -10,
              fill: 'var(--soft-ink)',
              fontSize: 13,
            }}
          />
          <YAxis type="number" dataKey="y" domain={['auto', 'auto']} stroke="var(--ink)" width={44} />
          <Scatter
            data={judged}
            isAnimationActive={false}
            shape={(p: { cx?: number; cy?: number }) => (
              <circle cx={p.cx} cy={p.cy} r={2.6} fill="none" stroke="var(--ink)" strokeWidth={0.9} />
            )}
          />
          {curve && (
            <ReferenceLine
              segment={[
                { x: low, y: at(low) },
                { x: high, y: at(high) },
              ]}
              stroke="var(--pine)"
              strokeWidth={2}
            />
          )}
          {line?.from != null && (
            <>
              <ReferenceLine
                segment={[
                  { x: borderline, y: line.from },
                  { x: Math.max(0, low - 4), y: line.from },
                ]}
                stroke="var(--pine)"
                strokeDasharray="4 3"
              />
              <ReferenceLine x={borderline} stroke="var(--pine)" strokeDasharray="4 3" />
            </>
          )}
        </ComposedChart>
      </ResponsiveContainer>
      <p className="soft small mb-1">{says}</p>
      <ChartTable heads={['judged, percent of the scale', 'students', 'mean course percent']} rows={() => inSteps(judged, 5)} />
    </>
  )
}
