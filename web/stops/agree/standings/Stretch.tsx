import { useRef, type KeyboardEvent, type PointerEvent } from 'react'
import { placeAt } from '../../../parts/LevelRuler'
import styles from './standings.module.css'
import levelRulerStyles from '../../../parts/level-ruler.module.css'

const WIDTH = 240
const LINE = 10

interface Props {
  labels: readonly string[]
  reached: number
  from: number
  to: number
  onChange: (from: number, to: number) => void
}

/** A stretch of levels on their ruler: its two ends are pulled, or stepped with the arrow keys. */
export function Stretch({ labels, reached, from, to, onChange }: Props) {
  const svg = useRef<SVGSVGElement>(null)
  const pulling = useRef<'from' | 'to' | null>(null)
  const put = (end: 'from' | 'to', level: number) => {
    const at = Math.min(labels.length, Math.max(1, level))
    if (end === 'from') onChange(Math.min(at, to), to)
    else onChange(from, Math.max(at, from))
  }
  const nearest = (e: PointerEvent): number => {
    const box = svg.current!.getBoundingClientRect()
    const x = ((e.clientX - box.left) / box.width) * WIDTH
    return labels
      .map((_, i) => i + 1)
      .sort((a, b) => Math.abs(placeAt(a, labels.length, WIDTH) - x) - Math.abs(placeAt(b, labels.length, WIDTH) - x))[0]!
  }
  const step = (end: 'from' | 'to', at: number) => (e: KeyboardEvent) => {
    const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, Home: -99, End: 99 }[e.key]
    if (by === undefined) return
    e.preventDefault()
    e.stopPropagation()
    put(end, at + by)
  }
  const end = (which: 'from' | 'to', at: number) => (
    <rect
      role="slider"
      tabIndex={0}
      aria-label={which === 'from' ? 'Who stands from' : 'Who stands up to'}
      aria-valuemin={1}
      aria-valuemax={labels.length}
      aria-valuenow={at}
      aria-valuetext={labels[at - 1]}
      className={styles.stretchEnd}
      x={placeAt(at, labels.length, WIDTH) - 5 + (from === to ? (which === 'from' ? -3 : 3) : 0)}
      y={LINE - 7}
      width="10"
      height="14"
      rx="2"
      onKeyDown={step(which, at)}
      onPointerDown={(e) => {
        pulling.current = which
        e.currentTarget.setPointerCapture(e.pointerId)
      }}
      onPointerMove={(e) => pulling.current === which && put(which, nearest(e))}
      onPointerUp={() => (pulling.current = null)}
    />
  )
  return (
    <svg ref={svg} className={styles.stretch} width={WIDTH} height={38} role="group" aria-label="A stretch of levels">
      <line
        x1={placeAt(1, labels.length, WIDTH)}
        x2={placeAt(labels.length, labels.length, WIDTH)}
        y1={LINE}
        y2={LINE}
        className={levelRulerStyles.rulerLine}
      />
      <line
        x1={placeAt(from, labels.length, WIDTH)}
        x2={placeAt(to, labels.length, WIDTH)}
        y1={LINE}
        y2={LINE}
        className={styles.stretchLine}
      />
      {labels.map((label, i) => {
        const x = placeAt(i + 1, labels.length, WIDTH)
        const long = i + 1 === reached
        return (
          <g key={label}>
            <line
              x1={x}
              x2={x}
              y1={LINE - (long ? 8 : 4)}
              y2={LINE + (long ? 8 : 4)}
              className={long ? levelRulerStyles.rulerLong : levelRulerStyles.rulerLine}
            />
            <text
              x={x}
              y={34}
              textAnchor={i === 0 ? 'start' : i === labels.length - 1 ? 'end' : 'middle'}
              dx={i === 0 ? -EDGE : i === labels.length - 1 ? EDGE : 0}
            >
              {label}
            </text>
          </g>
        )
      })}
      {end('from', from)}
      {end('to', to)}
    </svg>
  )
}

const EDGE = 8
