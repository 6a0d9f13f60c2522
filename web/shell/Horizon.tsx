import { memo, useMemo, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import { Area, ComposedChart, Line, ReferenceLine, ResponsiveContainer, Scatter, XAxis, YAxis } from 'recharts'
import { describe } from '#core/compare'
import { gradeCounts, type CourseResult } from '#core/grades'
import { percentOf } from '#core/rescale'
import { trialInWords } from '#core/trial'
import { apart } from '../parts/apart'
import { columnCounts, stackDots } from '../parts/dots'
import { useWidth } from '../parts/useWidth'
import { WhichStands } from '../parts/WhichStands'
import { counted, fixed } from '../parts/format'
import { AdoptDialog } from '../course/AdoptDialog'
import { useCourse } from '../course/course'
import { useKeys } from '../settings/keys'

const COLUMN = 1
/** Of the names and counts of grades, in pixels, on the wide side. */
const CHARACTER = 6.6
/** Above so many, people are drawn as columns and not as a dot each. */
const DOTS = 800

/** Where the final grades stand, on every stop; during a trial also who would move. */
export default function Horizon() {
  const { current, adopted, trial, discard, clash, settleClash, id } = useCourse()
  const [folded, setFolded] = useState(false)
  const [adopting, setAdopting] = useState(false)
  const open = trial.changes.length > 0
  useKeys([
    { key: 'f', does: 'fold or unfold the horizon', run: () => setFolded((f) => !f) },
    ...(open
      ? [
          { key: 'Ctrl+Enter', does: 'adopt the trial', inFields: true, run: () => setAdopting(true) },
          { key: 'Ctrl+Backspace', does: 'discard the trial', run: discard },
        ]
      : []),
  ])
  const figures = useMemo(() => {
    const finals = current.students.flatMap((s) => s.adjusted ?? [])
    return { finals: finals.length, of: current.students.length, mean: describe(finals).mean }
  }, [current])

  const asked = clash && (
    <div className="trial-clash">
      <WhichStands onSettle={settleClash}>
        You changed the trial in another window: {trialInWords(clash)} there, {trialInWords(trial.changes)} here.
      </WhichStands>
    </div>
  )
  return (
    <footer className={`horizon${folded ? ' folded' : ''}`} aria-label="Where it stands">
      <div>
        {!folded && <h2>Where it stands</h2>}
        <div className="figures">
          {figures.finals} of {figures.of} final · mean {fixed(figures.mean)}
        </div>
        {!folded && (
          <button className="fold" onClick={() => setFolded(true)}>
            fold <kbd>F</kbd>
          </button>
        )}
      </div>
      {folded ? (
        <button className="fold text-start" onClick={() => setFolded(false)}>
          unfold the horizon <kbd>F</kbd>
        </button>
      ) : (
        <Strip result={current} ghost={open ? adopted : null} />
      )}
      <div className="says">
        <span role="status" aria-live="polite">
          {open ? <TrialWords /> : <span className="soft">No trial open</span>}
        </span>
        {open ? (
          <span className="text-nowrap">
            <Button size="sm" onClick={() => setAdopting(true)} disabled={trial.problem !== null} title="Adopt the trial (Ctrl+Enter)">
              Adopt
            </Button>{' '}
            <Button size="sm" variant="link" onClick={discard} title="Discard the trial (Ctrl+Backspace)">
              Discard
            </Button>
          </span>
        ) : (
          <Link to={`/courses/${id}/record`}>The record</Link>
        )}
      </div>
      {asked}
      {adopting && <AdoptDialog onClose={() => setAdopting(false)} />}
    </footer>
  )
}

function TrialWords() {
  const { trial } = useCourse()
  if (trial.problem) return <span className="brick">{trial.problem}</span>
  if (!trial.change) return <>Trial: working it out…</>
  const { movers, up, down, reversed, percents } = trial.change
  const settled = movers.filter((m) => m.fromGrade === null).length
  return (
    <>
      <b>
        Trial:{' '}
        {movers.length === 0 ? 'no grade changes' : `${counted(movers.length, 'grade')} ${movers.length === 1 ? 'changes' : 'change'}`}
      </b>
      <br />
      <span className="soft">
        {settled > 0 && `${settled} become final · `}
        {up} up, {down} down
        {reversed > 0 ? ` · ${reversed} overtake` : movers.length === 0 ? ` · ${counted(percents, 'percent')} move` : ''}
      </span>
    </>
  )
}

const Strip = memo(function Strip({ result, ghost }: { result: CourseResult; ghost: CourseResult | null }) {
  const drawn = useMemo(() => {
    const people = result.students.flatMap((s) => {
      const value = percentOf(s)
      return value === null ? [] : [{ id: s.studentId, value, final: s.final !== null }]
    })
    const low = people.reduce((m, p) => Math.min(m, p.value), 100)
    const from = Math.max(0, Math.min(40, Math.floor(low / 10) * 10))
    const to = people.reduce((m, p) => Math.max(m, p.value), 100)
    const final = new Set(people.filter((p) => p.final).map((p) => p.id))
    const many = people.length > DOTS
    const dots = many ? [] : stackDots(people, COLUMN)
    // Who stands at the very top belongs to the last column.
    const columns = (list: typeof people) =>
      columnCounts(
        list.map((p) => Math.min(p.value, to - COLUMN / 2)),
        COLUMN,
        from,
        to,
      )
    const density = many ? { all: columns(people), final: columns(people.filter((p) => p.final)) } : null
    const before = ghost
      ? columnCounts(
          ghost.students.flatMap((s) => percentOf(s) ?? []),
          COLUMN,
          from,
          to,
        )
      : []
    const top = Math.max(12, ...dots.map((d) => d.y), ...before.map((b) => b.n), ...(density?.all.map((c) => c.n) ?? []))
    return { density, from, to, top, before, solid: dots.filter((d) => final.has(d.id)), hollow: dots.filter((d) => !final.has(d.id)) }
  }, [result, ghost])
  const counts = useMemo(() => gradeCounts(result), [result])
  const bounds = [...result.boundaries].sort((a, b) => a.from - b.from)
  const radius = Math.min(1.7, 40 / drawn.top / 2)
  const strip = useRef<HTMLDivElement>(null)
  const room = useWidth(strip)
  const named = bounds.flatMap((b, i) => {
    const low = Math.max(drawn.from, b.from)
    const high = Math.min(drawn.to, bounds[i + 1]?.from ?? drawn.to)
    if (high <= low) return []
    const count = counts.find((c) => c.grade === b.grade)?.count ?? 0
    return [{ grade: b.grade, count, middle: ((low + high) / 2 - drawn.from) / (drawn.to - drawn.from) }]
  })
  // Where their names do not fit side by side the counts alone stand there.
  const places = apart(
    named.map((g) => g.middle * room),
    named.map((g) => (g.grade.length + String(g.count).length + 2) * CHARACTER),
    room,
  )
  return (
    <div
      ref={strip}
      className="strip"
      role="img"
      aria-label={`Final percents: ${counts.map((c) => `${c.grade} ${c.count}`).join(', ')}`}
      style={{ position: 'relative' }}
    >
      <ResponsiveContainer width="100%" height={47} initialDimension={{ width: 700, height: 47 }}>
        <ComposedChart margin={{ top: 4, right: 0, bottom: 0, left: 0 }} accessibilityLayer={false}>
          <XAxis type="number" dataKey="x" domain={[drawn.from, drawn.to]} hide allowDataOverflow />
          <YAxis type="number" domain={[0, drawn.top + 1]} hide />
          <ReferenceLine y={0} stroke="var(--ink)" />
          {bounds.slice(1).map((b) => (
            <ReferenceLine key={b.grade} x={b.from} stroke="var(--pine)" strokeWidth={1.5} />
          ))}
          <Scatter
            data={drawn.hollow}
            dataKey="y"
            isAnimationActive={false}
            shape={(p: { cx?: number; cy?: number }) => (
              <circle cx={p.cx} cy={p.cy} r={radius} fill="none" stroke="var(--soft-ink)" strokeWidth={0.8} />
            )}
          />
          <Scatter
            data={drawn.solid}
            dataKey="y"
            isAnimationActive={false}
            shape={(p: { cx?: number; cy?: number }) => <circle cx={p.cx} cy={p.cy} r={radius} fill="var(--ink)" />}
          />
          {drawn.density && (
            <>
              <Area
                data={drawn.density.all}
                dataKey="n"
                type="step"
                isAnimationActive={false}
                stroke="var(--soft-ink)"
                strokeWidth={0.8}
                fill="none"
              />
              <Area
                data={drawn.density.final}
                dataKey="n"
                type="step"
                isAnimationActive={false}
                stroke="none"
                fill="var(--ink)"
                fillOpacity={1}
              />
            </>
          )}
          {ghost && (
            <Line
              data={drawn.before}
              dataKey="n"
              dot={false}
              activeDot={false}
              stroke="var(--pine)"
              strokeDasharray="3 2"
              isAnimationActive={false}
            />
          )}
        </ComposedChart>
      </ResponsiveContainer>
      {named.map((g, i) => (
        <span
          key={g.grade}
          className="small grade-count"
          title={g.grade}
          style={{ left: places ? `${(100 * places[i]!) / room}%` : `${100 * g.middle}%` }}
        >
          {places && g.grade} <b>{g.count}</b>
        </span>
      ))}
    </div>
  )
})
