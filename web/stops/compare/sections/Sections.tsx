import { useCallback, useMemo, useRef, useState } from 'react'
import { useFigures } from '../../../course/course'
import { useKeys } from '../../../settings/keys'
import { AxisTicks } from '../../../parts/AxisTicks'
import { ticksOf } from '../../../parts/ticks'
import { Rows } from '../../../parts/Rows'
import { Vial } from '../../../parts/Vial'
import { WorkingOut } from '../../../parts/WorkingOut'
import { counted, fixed, numeral, today } from '../../../parts/format'
import type { Against } from '#core/compare'
import { NOT_TOLD, type Compared, type ComparedGroup, type ComparedSection } from '../../../parts/compared'
import { TakeOut } from '../../../parts/take-out/TakeOut'
import { CompareHead } from '../CompareHead'
import { GroupRidge } from '../GroupRidge'
import { RowTools } from '../RowTools'
import { orderRows, type Order } from '../order-rows'
import type { ViewProps } from '../kinds'
import { CloseUp } from '../../../parts/CloseUp'
import styles from '../compare.module.css'
import { OtherWork } from './OtherWork'
import { SectionCloseUp } from './SectionCloseUp'
import { sectionsOut } from './table-out'

const NONE: ComparedSection[] = []
/** As high as its ridge. */
const ROW = 58

/** Every section on one axis: who is out of level, and is that the students or the marking. */
export function Sections(view: ViewProps) {
  const [others, setOthers] = useState<string[] | null>(null)
  const compared = useFigures('compare', view.subject, others)
  const [chosenId, setChosen] = useState<string | null>(null)
  const [bar, setBar] = useState<number | null>(null)
  const [given, setGiven] = useState(false)
  const [wanted, setWanted] = useState('')
  const [order, setOrder] = useState<Order>('plan')
  const table = useRef<HTMLTableElement>(null)
  const sections = compared?.sections ?? NONE
  const rows = useMemo(
    () =>
      orderRows(
        sections,
        (s) => {
          const { difference: lean, interval } = given && s.expected ? s.expected.againstOthers : s.lean
          return { name: `${s.name} ${s.teacher ?? ''}`, lean, interval }
        },
        order,
        wanted,
      ),
    [sections, given, order, wanted],
  )
  const farthest = useMemo(
    () => [...sections].sort((a, b) => Math.abs(b.lean.difference ?? 0) - Math.abs(a.lean.difference ?? 0))[0],
    [sections],
  )
  const chosen = rows.find((s) => s.id === chosenId) ?? (wanted ? rows[0] : farthest)
  const choose = useCallback((id: string, value: number | null = null) => {
    setChosen(id)
    setBar(value)
  }, [])
  const step = (by: number) => {
    const next = rows[rows.findIndex((s) => s.id === chosen?.id) + by]
    if (next) choose(next.id)
  }
  useKeys([
    { key: 'ArrowDown', does: 'next section', run: () => step(1) },
    { key: 'ArrowUp', does: 'section before', run: () => step(-1) },
    { key: 'g', does: 'as marked, or given their other work', run: () => setGiven((was) => !was) },
  ])
  if (!compared) return <WorkingOut />
  const mayGive = compared.otherWork !== null
  const withOther = given && mayGive
  const under = `${compared.title}, ${counted(compared.everyone.figures.n, 'student')}, ${today()}`
  return (
    <div className="work">
      <main className="table-side">
        <CompareHead
          {...view}
          subject={compared.subject}
          rows="sections"
          question="Are the sections on one level?"
          out={
            <TakeOut
              table={() => sectionsOut(compared)}
              chart={{ words: { title: `${compared.title} by section`, under }, within: table }}
            />
          }
        >
          <div className={styles.bar}>
            <span className="pill-choice" role="group" aria-label="How sections are held against each other">
              <button aria-pressed={!withOther} onClick={() => setGiven(false)}>
                as marked
              </button>
              <button aria-pressed={withOther} disabled={!mayGive} onClick={() => setGiven(true)} title={mayGive ? 'g' : NO_OTHER}>
                given their other work
              </button>
            </span>
            <RowTools what="sections" wanted={wanted} onWanted={setWanted} order={order} onOrder={setOrder} />
          </div>
        </CompareHead>
        <table className={`grid ${styles.grid}`} ref={table}>
          <thead>
            <tr>
              <th>section</th>
              <th className={styles.axis} aria-hidden>
                <AxisTicks ticks={ticksOf(compared.from, compared.top)} from={compared.from} to={compared.top} />
              </th>
              {withOther ? (
                <>
                  <th className="number">elsewhere</th>
                  <th>as marked</th>
                  <th>given their other work</th>
                  <th>so</th>
                </>
              ) : (
                <>
                  <th className="number">marked</th>
                  <th className="number">median</th>
                  <th className="number">mean</th>
                  <th className="number">sd</th>
                  <th className="number">passed</th>
                  <th className="number">open</th>
                  <th>leans from the rest</th>
                </>
              )}
            </tr>
          </thead>
          <tbody>
            <Rows
              items={rows}
              height={ROW}
              columns={withOther ? 6 : 9}
              chosen={chosen ? rows.indexOf(chosen) : -1}
              row={(s, row) => (
                <tr key={s.id} {...row} className="pick" aria-selected={s.id === chosen?.id} onClick={() => choose(s.id)}>
                  <td className={styles.name}>
                    <button className="row-name" onClick={() => choose(s.id)}>
                      {s.name}
                    </button>
                    <small>{s.teacher}</small>
                  </td>
                  <GroupRidge group={s} in={compared} chosen={s.id === chosen?.id} onPick={choose} />
                  {withOther ? <GivenOtherWork section={s} compared={compared} /> : <AsMarked group={s} decimals={compared.decimals} />}
                  {!withOther && (
                    <td>
                      <AgainstOthers name={s.name} against={s.lean} compared={compared} />
                    </td>
                  )}
                </tr>
              )}
            />
            <tr className={styles.everyone}>
              <td className={styles.name}>
                <b>Everyone</b>
              </td>
              <GroupRidge group={compared.everyone} in={compared} chosen={false} />
              {withOther ? <td colSpan={4} /> : <AsMarked group={compared.everyone} decimals={compared.decimals} />}
              {!withOther && <td />}
            </tr>
          </tbody>
        </table>
        {rows.length === 0 && <p className="soft mt-2">No section is called that.</p>}
        <p className="soft small mt-2 mb-0">Counted: {compared.who}.</p>
        <Underneath compared={compared} />
      </main>
      <CloseUp>
        {chosen && <SectionCloseUp compared={compared} section={chosen} bar={bar} onBar={setBar} />}
        {compared.otherWork && <OtherWork compared={compared} chosen={chosen} others={others} onOthers={setOthers} />}
      </CloseUp>
    </div>
  )
}

const NO_OTHER = 'There is no other work with marks to hold it against.'

function AsMarked({ group: g, decimals }: { group: ComparedGroup; decimals: number }) {
  return (
    <>
      <td className="number">{g.figures.n}</td>
      <td className="number">{fixed(g.figures.median, decimals)}</td>
      <td className="number">{fixed(g.figures.mean, decimals)}</td>
      <td className="number soft">{fixed(g.figures.sd, decimals)}</td>
      <td className="number">{g.passed === null ? '–' : `${g.passed} of ${g.figures.n}`}</td>
      <td className={`number ${g.open > 0 ? 'ochre fw-semibold' : 'soft'}`}>{g.open}</td>
    </>
  )
}

function GivenOtherWork({ section: s, compared }: { section: ComparedSection; compared: Compared }) {
  return (
    <>
      <td className="number">{fixed(s.expected?.elsewhere ?? null)}</td>
      <td>
        <AgainstOthers name={s.name} against={s.lean} compared={compared} />
      </td>
      <td>
        <AgainstOthers name={`${s.name}, given their other work,`} against={s.expected?.againstOthers ?? NOT_TOLD} compared={compared} />
      </td>
      <td className={styles.verdict}>{s.says && <span className={s.says.look ? 'ochre' : undefined}>{s.says.words}</span>}</td>
    </>
  )
}

/** How far a section stands from all the others. */
function AgainstOthers({ name, against, compared }: { name: string; against: Against; compared: Compared }) {
  const { tolerance, decimals, unit } = compared
  return <Vial name={name} lean={against.difference} interval={against.interval} tolerance={tolerance} unit={unit} decimals={decimals} />
}

function Underneath({ compared: { kruskal, tolerance, unit, mean, decimals, everyone } }: { compared: Compared }) {
  return (
    <p className="small mt-2">
      <b>Differences between sections:</b>{' '}
      <span className="soft">
        {kruskal
          ? `Kruskal–Wallis H = ${fixed(kruskal.h)}, ${kruskal.df} df, ${kruskal.p < 0.001 ? `p < ${numeral(0.001)}` : `p = ${fixed(kruskal.p, 3)}`}`
          : 'too little to test'}
        {' · '}inside the lines: within ±{numeral(tolerance)} {unit} of the others · dotted line: everyone {fixed(mean, decimals)} · bold:
        not chance
        {everyone.unsettled > 0 && ` · ${everyone.unsettled} read and not yet settled: counted as the mean of their readings`}
      </span>
    </p>
  )
}
