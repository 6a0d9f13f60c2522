import { useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import { density } from '#core'
import { useCourse } from '../../frame/course'
import { useKeys } from '../../frame/keys'
import { AxisTicks } from '../../parts/AxisTicks'
import { OfSelect } from '../../parts/OfSelect'
import { Ridge } from '../../parts/Ridge'
import { tickStep } from '../../parts/ticks'
import { Vial } from '../../parts/Vial'
import { fixed, plain } from '../../parts/format'
import { compareSections, WHOLE_COURSE } from './compared'
import { SectionCloseUp } from './SectionCloseUp'
import './compare.css'

/** Every section on one axis: who is out of level, and who is in which bar. */
export default function Compare() {
  const course = useCourse()
  const [search, setSearch] = useSearchParams()
  const of = search.get('of') ?? course.table.assessments.find((a) => a.readingsWanted === 2)?.id ?? WHOLE_COURSE
  const compared = useMemo(() => compareSections(course, of), [course, of])
  const [chosenId, setChosen] = useState<string | null>(null)
  const [bar, setBar] = useState<number | null>(null)
  const { sections, top } = compared
  const farthest = useMemo(
    () => [...sections].sort((a, b) => Math.abs(b.lean.difference ?? 0) - Math.abs(a.lean.difference ?? 0))[0],
    [sections],
  )
  const chosen = sections.find((s) => s.id === chosenId) ?? farthest
  const choose = (id: string, value: number | null = null) => {
    setChosen(id)
    setBar(value)
  }
  const step = (by: number) => {
    const next = sections[sections.findIndex((s) => s.id === chosen?.id) + by]
    if (next) choose(next.id)
  }
  const stepOf = (by: number) => {
    const order = [WHOLE_COURSE, ...course.table.components.map((c) => c.id), ...course.table.assessments.map((a) => a.id)]
    const next = order[order.indexOf(of) + by]
    if (next) setSearch({ of: next }, { replace: true })
  }
  useKeys([
    { key: 'ArrowDown', does: 'next section', run: () => step(1) },
    { key: 'ArrowUp', does: 'section before', run: () => step(-1) },
    { key: ']', does: 'next assessment', run: () => stepOf(1) },
    { key: '[', does: 'assessment before', run: () => stepOf(-1) },
  ])

  const values = sections.flatMap((s) => s.people.map((p) => p.value))
  const width = tickStep(top)
  const from = values.length > 0 ? Math.min(Math.floor(Math.min(...values) / width) * width, top - width) : 0
  const ticks = Array.from({ length: Math.round((top - from) / width) + 1 }, (_, i) => from + i * width)
  const tallest = useMemo(
    () =>
      Math.max(
        0.0001,
        ...sections.flatMap((s) =>
          density(
            s.people.map((p) => p.value),
            { from, to: top, points: 80 },
          ).map((p) => p.y),
        ),
      ) * 1.1,
    [sections, from, top],
  )
  if (!course.table.hasMarks)
    return <div className="empty">There are no marks yet. When they come in at Mark, every section is drawn here on one axis.</div>
  const { kruskal, unit } = compared
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>Are the sections on one level?</h1>
          <div className="end">
            <span className="soft">in</span>
            <OfSelect
              table={course.table}
              value={of}
              whole={{ id: WHOLE_COURSE, title: 'the course' }}
              onChange={(id) => setSearch({ of: id }, { replace: true })}
            />
          </div>
        </div>
        <table className="grid compare">
          <thead>
            <tr>
              <th>section</th>
              <th className="axis" aria-hidden>
                <AxisTicks ticks={ticks} from={from} to={top} />
              </th>
              <th className="num">marked</th>
              <th className="num">median</th>
              <th className="num">mean</th>
              <th className="num">sd</th>
              <th className="num">passed</th>
              <th className="num">open</th>
              <th>leans from the rest</th>
            </tr>
          </thead>
          <tbody>
            {sections.map((s) => (
              <tr key={s.id} className="pick" aria-selected={s.id === chosen?.id} onClick={() => choose(s.id)}>
                <td>
                  <button className="row-name" onClick={() => choose(s.id)}>
                    {s.name}
                  </button>
                  <span className="soft small">{s.teacher}</span>
                </td>
                <td className="ridge">
                  <Ridge
                    people={s.people}
                    figures={s.figures}
                    from={from}
                    to={top}
                    tallest={tallest}
                    level={compared.mean}
                    passMark={compared.passMark}
                    chosen={s.id === chosen?.id}
                    onPick={(v) => choose(s.id, v)}
                  />
                </td>
                <td className="num">{s.figures.n}</td>
                <td className="num">{fixed(s.figures.median)}</td>
                <td className="num">{fixed(s.figures.mean)}</td>
                <td className="num soft">{fixed(s.figures.sd)}</td>
                <td className="num">{s.passed === null ? '–' : `${s.passed} of ${s.figures.n}`}</td>
                <td className={`num ${s.open > 0 ? 'ochre fw-semibold' : 'soft'}`}>{s.open}</td>
                <td>
                  <Vial
                    name={s.name}
                    lean={s.lean.difference}
                    interval={s.lean.interval}
                    tolerance={compared.tolerance}
                    unit={unit === 'marks' ? 'marks' : 'percent'}
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="small mt-2">
          <b>Differences between sections:</b>{' '}
          <span className="soft">
            {kruskal
              ? `Kruskal–Wallis H = ${kruskal.h.toFixed(1)}, ${kruskal.df} df, ${kruskal.p < 0.001 ? 'p < 0.001' : `p = ${kruskal.p.toFixed(3)}`}`
              : 'too little to test'}
            {' · '}inside the lines: within ±{plain(compared.tolerance)} {unit === 'marks' ? 'marks' : 'percent'} of the others · dotted
            line: all sections {fixed(compared.mean)}
          </span>
        </p>
      </main>
      <aside className="close-up" aria-label="Close-up">
        {chosen && <SectionCloseUp compared={compared} section={chosen} from={from} bar={bar} onBar={setBar} />}
      </aside>
    </div>
  )
}
