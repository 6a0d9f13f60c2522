import { createContext, memo, use, useMemo } from 'react'
import { ComposedChart, ResponsiveContainer, XAxis, YAxis, useXAxisScale, useYAxisScale } from 'recharts'
import type { Boundary, CourseResult } from '#core/grades'
import { columnCounts, stackDots, type Dot } from '../../../parts/dots'
import { Handles } from './Handles'
import { COLUMN, columnsOf, Columns, Dots, Outline, type PeopleColumn } from './people'

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

interface Drawn extends Props {
  dots: Dot[]
  columns: PeopleColumn[] | null
  value: ReadonlyMap<string, number>
  from: number
  to: number
  top: number
}

/** Above so many, people are drawn as columns and not as a dot each. */
const DOTS = 800
const NO_DOTS: Dot[] = []
const H = 262
const TICKS = Array.from({ length: 11 }, (_, i) => i * 10)
const MARGIN = { top: 30, right: 10, bottom: 0, left: 10 }
const ROOM = { width: 830, height: H }

const DrawnContext = createContext<Drawn | null>(null)

/** The final percents, a dot a person, with the boundaries to pull. Those near a line are hollow. */
export function BoundChart(props: Props) {
  const { result } = props
  const people = useMemo(() => {
    const people = result.students.flatMap((s) => (s.rounded === null ? [] : [{ id: s.studentId, value: s.rounded }]))
    const low = people.reduce((m, p) => Math.min(m, p.value), 100)
    const columns = people.length > DOTS ? columnsOf(people) : null
    const dots = columns ? NO_DOTS : stackDots(people, COLUMN)
    const most = columns ? columns.map((c) => c.values.length) : dots.map((d) => d.y)
    return {
      dots,
      columns,
      value: new Map(people.map((p) => [p.id, p.value])),
      from: Math.max(0, Math.min(40, Math.floor(low / 10) * 10)),
      to: people.reduce((m, p) => Math.max(m, p.value), 100),
      top: Math.max(8, ...most),
    }
  }, [result])
  return (
    <DrawnContext value={{ ...props, ...people }}>
      <Axes from={people.from} to={people.to} top={people.top} />
    </DrawnContext>
  )
}

/** The axes, which stay as they are while a line is moved: what moves on them is handed past the charts’ package, which would draw all of it anew. */
const Axes = memo(function Axes({ from, to, top }: Pick<Drawn, 'from' | 'to' | 'top'>) {
  return (
    <ResponsiveContainer width="100%" height={H} initialDimension={ROOM}>
      <ComposedChart margin={MARGIN} accessibilityLayer={false}>
        <XAxis
          type="number"
          dataKey="x"
          domain={[from, to]}
          ticks={TICKS.filter((t) => t >= from && t <= to)}
          stroke="var(--ink)"
          allowDataOverflow
          height={24}
        />
        <YAxis type="number" domain={[0, top + 1]} hide allowDataOverflow />
        <OnAxes />
      </ComposedChart>
    </ResponsiveContainer>
  )
})

/** What stands on the axes: the people, the lines, and what is near them. */
function OnAxes() {
  const drawn = use(DrawnContext)!
  const x = useXAxisScale()
  const y = useYAxisScale()
  if (!x || !y) return null
  const { boundaries, adopted, zone, bands, plain, dots, columns, value, from, to, top } = drawn
  const scales = { x: (percent: number) => x(percent)!, y: (people: number) => y(people)! }
  const movable = boundaries.slice(0, -1)
  const near = (percent: number) => zone !== null && movable.some((b) => Math.abs(percent - b.from) <= zone)
  const shaded = bands ?? (zone === null ? [] : movable.map((b) => [b.from - zone, b.from + zone] as const))
  const wasFrom = movable.flatMap((b) => adopted.find((a) => a.grade === b.grade && a.from !== b.from) ?? [])
  const [ceiling, floor] = [scales.y(top + 1), scales.y(0)]
  return (
    <>
      {shaded.map(([low, high], i) => {
        const [left, right] = [scales.x(Math.max(from, low)), scales.x(Math.min(to, high))]
        return <rect key={i} x={left} width={Math.max(0, right - left)} y={ceiling} height={floor - ceiling} fill="var(--bubble-wash)" />
      })}
      {wasFrom.map(
        (b) =>
          b.from >= from && (
            <path
              key={b.grade}
              d={`M${scales.x(b.from)} ${ceiling}V${floor}`}
              stroke="var(--soft-ink)"
              strokeDasharray="2 4"
              pointerEvents="none"
            />
          ),
      )}
      {plain && <Outline columns={columnCounts(plain, COLUMN, from, to)} {...scales} />}
      {columns ? (
        <Columns columns={columns} near={near} {...scales} />
      ) : (
        <Dots
          dots={dots}
          near={(id) => near(value.get(id)!)}
          radius={Math.max(1.2, Math.min(4.4, (H - 80) / top / 2))}
          onPick={drawn.onPick}
          {...scales}
        />
      )}
      <Handles {...drawn} boundaries={movable} />
    </>
  )
}
