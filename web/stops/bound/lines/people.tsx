import { curveStep, line } from 'd3-shape'
import { memo } from 'react'
import type { Column, Dot } from '../../../parts/dots'
import { useStable } from '../../../parts/useStable'

/** Percents that stand in one column. */
export const COLUMN = 0.75

interface Scales {
  x: (percent: number) => number
  y: (people: number) => number
}

/** A person a dot, hollow near a line. */
export function Dots({
  dots,
  near,
  radius,
  onPick,
  x,
  y,
}: { dots: readonly Dot[]; near: (id: string) => boolean; radius: number; onPick: (id: string) => void } & Scales) {
  const pick = useStable(onPick)
  return (
    <g strokeWidth={1.2} stroke="var(--ink)" style={{ cursor: 'pointer' }}>
      {dots.map((d) => (
        <PersonDot key={d.id} id={d.id} cx={x(d.x)} cy={y(d.y)} radius={radius} hollow={near(d.id)} onPick={pick} />
      ))}
    </g>
  )
}

interface PersonProps {
  id: string
  cx: number
  cy: number
  radius: number
  hollow: boolean
  onPick: (id: string) => void
}

const PersonDot = memo(function PersonDot({ id, cx, cy, radius, hollow, onPick }: PersonProps) {
  return <circle cx={cx} cy={cy} r={radius} fill={hollow ? 'var(--sheet)' : 'var(--ink)'} onClick={() => onPick(id)} />
})

export interface PeopleColumn {
  /** Its left end, in percent. */
  from: number
  values: number[]
}

export function columnsOf(people: readonly { value: number }[]): PeopleColumn[] {
  const columns = new Map<number, number[]>()
  for (const { value } of people) {
    const place = Math.floor(value / COLUMN)
    const own = columns.get(place)
    if (own) own.push(value)
    else columns.set(place, [value])
  }
  return [...columns].map(([place, values]) => ({ from: place * COLUMN, values }))
}

/** Very many people: how many stand in each column, those near a line hollow on top. */
export function Columns({ columns, near, x, y }: { columns: readonly PeopleColumn[]; near: (percent: number) => boolean } & Scales) {
  return (
    <g stroke="var(--ink)" strokeWidth={0.8}>
      {columns.map(({ from, values }) => {
        const [left, right] = [x(from) + 0.5, x(from + COLUMN) - 0.5]
        const close = values.filter(near).length
        const [base, middle, top] = [y(0), y(values.length - close), y(values.length)]
        return (
          <g key={from}>
            <rect x={left} y={middle} width={right - left} height={base - middle} fill="var(--ink)" />
            {close > 0 && <rect x={left} y={top} width={right - left} height={middle - top} fill="var(--sheet)" />}
          </g>
        )
      })}
    </g>
  )
}

/** Where percents were before they were rescaled. */
export function Outline({ columns, x, y }: { columns: readonly Column[] } & Scales) {
  const outline = line<Column>(
    (c) => x(c.x),
    (c) => y(c.n),
  ).curve(curveStep)
  return <path d={outline(columns)!} fill="none" stroke="var(--soft-ink)" strokeDasharray="3 2" pointerEvents="none" />
}
