import { useCallback, useMemo, useState } from 'react'
import { useSearchParams } from 'react-router'
import { useCourse, useFigures } from '../../course/course'
import { useKeys } from '../../settings/keys'
import { AxisTicks } from '../../parts/AxisTicks'
import { OfSelect } from '../../parts/OfSelect'
import { Ridge } from '../../parts/Ridge'
import { Rows } from '../../parts/Rows'
import { tickStep } from '../../parts/ticks'
import { Vial } from '../../parts/Vial'
import { WorkingOut } from '../../parts/WorkingOut'
import { fixed, numeral } from '../../parts/format'
import { WHOLE_COURSE, type ComparedSection } from '../../parts/compared'
import { SectionCloseUp } from './SectionCloseUp'
import './compare.css'

const NONE: ComparedSection[] = []
/** As high as its ridge. */
const ROW = 58
const COLUMNS = 9

/** Every section on one axis: who is out of level, and who is in which bar. */
export default function Compare() {
  const { table } = useCourse()
  const [search, setSearch] = useSearchParams()
  const compared = useFigures('compare', search.get('of'))
  const [chosenId, setChosen] = useState<string | null>(null)
  const [bar, setBar] = useState<number | null>(null)
  const sections = compared?.sections ?? NONE
  const farthest = useMemo(
    () => [...sections].sort((a, b) => Math.abs(b.lean.difference ?? 0) - Math.abs(a.lean.difference ?? 0))[0],
    [sections],
  )
  const chosen = sections.find((s) => s.id === chosenId) ?? farthest
  const choose = useCallback((id: string, value: number | null = null) => {
    setChosen(id)
    setBar(value)
  }, [])
  const step = (by: number) => {
    const next = sections[sections.findIndex((s) => s.id === chosen?.id) + by]
    if (next) choose(next.id)
  }
  const stepOf = (by: number) => {
    const order = [WHOLE_COURSE, ...table.components.map((c) => c.id), ...table.assessments.map((a) => a.id)]
    const next = compared && order[order.indexOf(compared.of) + by]
    if (next) setSearch({ of: next }, { replace: true })
  }
  useKeys([
    { key: 'ArrowDown', does: 'next section', run: () => step(1) },
    { key: 'ArrowUp', does: 'section before', run: () => step(-1) },
    { key: ']', does: 'next assessment', run: () => stepOf(1) },
    { key: '[', does: 'assessment before', run: () => stepOf(-1) },
  ])

  if (!table.hasMarks)
    return <div className="empty">There are no marks yet. When they come in at Mark, every section is drawn here on one axis.</div>
  if (!compared) return <WorkingOut />
  const { kruskal, unit, from, top, tallest } = compared
  const width = tickStep(top)
  const ticks = Array.from({ length: Math.round((top - from) / width) + 1 }, (_, i) => from + i * width)
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>Are the sections on one level?</h1>
          <div className="end">
            <span className="soft">in</span>
            <OfSelect
              table={table}
              value={compared.of}
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
            <Rows
              of={sections}
              height={ROW}
              columns={COLUMNS}
              chosen={chosen ? sections.indexOf(chosen) : -1}
              row={(s, row) => (
                <tr key={s.id} {...row} className="pick" aria-selected={s.id === chosen?.id} onClick={() => choose(s.id)}>
                  <td>
                    <button className="row-name" onClick={() => choose(s.id)}>
                      {s.name}
                    </button>
                    <span className="soft small">{s.teacher}</span>
                  </td>
                  <td className="ridge">
                    <Ridge
                      id={s.id}
                      people={s.people}
                      figures={s.figures}
                      from={from}
                      to={top}
                      tallest={tallest}
                      level={compared.mean}
                      passMark={compared.passMark}
                      chosen={s.id === chosen?.id}
                      onPick={choose}
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
              )}
            />
          </tbody>
        </table>
        <p className="small mt-2">
          <b>Differences between sections:</b>{' '}
          <span className="soft">
            {kruskal
              ? `Kruskal–Wallis H = ${kruskal.h.toFixed(1)}, ${kruskal.df} df, ${kruskal.p < 0.001 ? 'p < 0.001' : `p = ${kruskal.p.toFixed(3)}`}`
              : 'too little to test'}
            {' · '}inside the lines: within ±{numeral(compared.tolerance)} {unit === 'marks' ? 'marks' : 'percent'} of the others · dotted
            line: all sections {fixed(compared.mean)}
          </span>
        </p>
      </main>
      <aside className="close-up" aria-label="Close-up">
        {chosen && <SectionCloseUp compared={compared} section={chosen} bar={bar} onBar={setBar} />}
      </aside>
    </div>
  )
}
