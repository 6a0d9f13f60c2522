import { area, curveMonotoneX } from 'd3-shape'
import { memo, useMemo } from 'react'
import { density, type Description } from '#core/compare'
import { RIDGE_POINTS } from './ridge-points'
import styles from './ridge.module.css'

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
/** Kept free above the tallest, so that its line is whole. */
const TOP = 4
/** About as wide as it is drawn. */
const PIXELS = 640
/** Room under the line for the dots, as a part of the tallest ridge. */
const UNDER = 0.3
const LINE = TOP + (H - TOP) / (1 + UNDER)
const DOTS = LINE + (H - LINE) * 0.55

/**
 * One row of a comparison: the shape, quartiles, median, and a dot a person. Dozens of them are drawn at once, so they are a few plain
 * elements each, whose places are parts of the width, and nothing is measured.
 */
export const Ridge = memo(function Ridge({ id, people, figures, from, to, tallest, level, passMark, chosen, onPick }: Props) {
  const shape = useMemo(() => {
    const points = density(
      people.map((p) => p.value),
      { from, to, points: RIDGE_POINTS },
    )
    const drawn = area<(typeof points)[number]>()
      .x((p) => ((p.x - from) / (to - from)) * PIXELS)
      .y0(LINE)
      .y1((p) => LINE - (p.y / tallest) * (LINE - TOP))
      .curve(curveMonotoneX)
    return drawn(points) ?? ''
  }, [people, from, to, tallest])
  const dots = useMemo(
    () =>
      // Two within a pixel are one to the eye, and thousands of circles take seconds to draw.
      [...new Map(people.map((p) => [Math.round(((p.value - from) / (to - from)) * PIXELS), p.value])).values()],
    [people, from, to],
  )
  const at = (value: number) => `${(100 * (value - from)) / (to - from)}%`
  const fails = (value: number) => passMark !== null && value < passMark
  const { q1, median, q3 } = figures
  return (
    <svg width="100%" height={H} className={styles.ridge} aria-hidden>
      {level !== null && <line x1={at(level)} x2={at(level)} y1={TOP} y2={H} stroke="var(--soft-ink)" strokeDasharray="1 3" />}
      <svg width="100%" height={H} viewBox={`0 0 ${PIXELS} ${H}`} preserveAspectRatio="none">
        <path d={shape} stroke="var(--ink)" fill={chosen ? 'var(--step-2)' : 'var(--sand)'} vectorEffect="non-scaling-stroke" />
      </svg>
      {q1 !== null && median !== null && q3 !== null && (
        <>
          <line x1={at(q1)} x2={at(q3)} y1={LINE} y2={LINE} stroke="var(--pine)" strokeWidth={4} />
          <line x1={at(median)} x2={at(median)} y1={LINE - 6} y2={LINE + 5} stroke="var(--ink)" strokeWidth={2} />
        </>
      )}
      {dots.map((value) => (
        <circle
          key={value}
          cx={at(value)}
          cy={DOTS}
          r={1.9}
          fill={fails(value) ? 'var(--brick)' : 'var(--ink)'}
          opacity={0.8}
          onClick={() => onPick(id, value)}
        />
      ))}
    </svg>
  )
})
