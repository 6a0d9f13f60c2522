import type { KeyboardEvent, PointerEvent } from 'react'
import { usePlotArea, useXAxisInverseScale, useXAxisScale } from 'recharts'
import type { Boundary } from '#core/grades'
import { fixed, numeral } from '../../../parts/format'
import styles from '../bound.module.css'
import { GRAIN, stepped } from '../useLines'

const BY_KEY: Record<string, number> = {
  ArrowLeft: -GRAIN,
  ArrowRight: GRAIN,
  ArrowDown: -0.1,
  ArrowUp: 0.1,
  PageDown: -5,
  PageUp: 5,
}

interface Props {
  /** Those that can be moved. */
  boundaries: readonly Boundary[]
  /** The left end of the axis, in percent. */
  from: number
  chosen: number
  disabled: boolean
  onChoose: (at: number) => void
  onPull: (at: number, from: number) => void
  onLetGo: (at: number, from: number) => void
}

/** The lines with their figures: pulled, or walked with the arrow keys by halves. */
export function Handles({ boundaries, from, chosen, disabled, onChoose, onPull, onLetGo }: Props) {
  const x = useXAxisScale()
  const percentAt = useXAxisInverseScale()
  const area = usePlotArea()
  if (!x || !percentAt || !area) return null
  const walk = (e: KeyboardEvent, i: number) => {
    const by = BY_KEY[e.key]
    if (!by || disabled) return
    e.preventDefault()
    e.stopPropagation()
    onLetGo(i, stepped(boundaries[i]!.from, by))
  }
  const hold = (e: PointerEvent<SVGGElement>, i: number) => {
    onChoose(i)
    if (disabled) return
    const target: SVGGElement = e.currentTarget
    const box = target.ownerSVGElement!.getBoundingClientRect()
    target.setPointerCapture(e.pointerId)
    let moved = false
    const place = (m: globalThis.PointerEvent) => {
      const percent = Number(percentAt(m.clientX - box.left))
      return Number((Math.round(percent / GRAIN) * GRAIN).toFixed(3))
    }
    const pull = (m: globalThis.PointerEvent) => {
      moved = true
      onPull(i, place(m))
    }
    target.addEventListener('pointermove', pull)
    target.addEventListener(
      'pointerup',
      (up) => {
        target.removeEventListener('pointermove', pull)
        if (moved) onLetGo(i, place(up))
      },
      { once: true },
    )
  }
  return (
    <g>
      {boundaries.map((b, i) => {
        const at = x(Math.max(from, b.from))!
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
            onKeyDown={(e) => walk(e, i)}
            onPointerDown={(e) => hold(e, i)}
          >
            <rect x={at - 8} y={area.y - 28} width={16} height={area.height + 28} fill="transparent" />
            <line x1={at} x2={at} y1={area.y - 8} y2={area.y + area.height} stroke="var(--pine)" strokeWidth={on ? 3 : 1.8} />
            <rect x={at - 28} y={area.y - 28} width={56} height={20} fill={on ? 'var(--pine)' : 'var(--sheet)'} stroke="var(--pine)" />
            <text x={at} y={area.y - 13.5} textAnchor="middle" fontSize={13} fontWeight={600} fill={on ? 'var(--on-pine)' : 'var(--ink)'}>
              {fixed(b.from)}
            </text>
          </g>
        )
      })}
    </g>
  )
}
