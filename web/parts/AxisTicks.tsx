import { useRef } from 'react'
import { numeral } from './format'
import { useWidth } from './useWidth'

/** Room that a figure on an axis takes, in pixels. */
const EACH = 34

/** The figures of an axis at their places; where they would overlap only so many as fit, the ends always among them. */
export function AxisTicks({ ticks, from, to, inset = 0 }: { ticks: readonly number[]; from: number; to: number; inset?: number }) {
  const axis = useRef<HTMLDivElement>(null)
  const width = useWidth(axis)
  const last = ticks.length - 1
  const fit = Math.max(1, Math.floor(width / EACH))
  const every = Math.max(1, Math.ceil(last / fit))
  const shown = width === 0 ? ticks : ticks.filter((_, i) => i === last || (i % every === 0 && last - i >= every))
  return (
    <div ref={axis}>
      {shown.map((t) => (
        <span
          key={t}
          style={{
            left: `${inset + ((t - from) / (to - from)) * (100 - 2 * inset)}%`,
            transform: inset > 0 || (t !== from && t !== to) ? 'translateX(-50%)' : t === from ? 'none' : 'translateX(-100%)',
          }}
        >
          {numeral(t)}
        </span>
      ))}
    </div>
  )
}
