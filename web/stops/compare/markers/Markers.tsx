import { useMemo, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { useDecidedCourse, useFigures, useJudgedFigures } from '../../../course/course'
import { useKeys } from '../../../settings/keys'
import { AskForReadings } from '../../../parts/AskForReadings'
import { Rows } from '../../../parts/Rows'
import { TakeOut } from '../../../parts/take-out/TakeOut'
import { Vial } from '../../../parts/Vial'
import { WorkingOut } from '../../../parts/WorkingOut'
import { counted, fixed, numeral, today } from '../../../parts/format'
import { CompareHead } from '../CompareHead'
import { RowTools } from '../RowTools'
import { orderRows, type Order } from '../order-rows'
import type { ViewProps } from '../kinds'
import { CloseUp } from '../../../parts/CloseUp'
import styles from '../compare.module.css'
import type { ComparedMarker } from './figures'
import { GivenOn } from './GivenOn'
import { LeanCell } from './LeanCell'
import { MarkerCloseUp } from './MarkerCloseUp'
import { ReliabilityLine } from './ReliabilityLine'
import { markersOut } from './table-out'
import { spreadInWords } from './words'

const NONE: ComparedMarker[] = []
/** Rows from which on they are found by typing. */
const MANY = 12
const SHORT = 11

/** A criterion’s first word, which is enough above a narrow column. */
function shortName(title: string): string {
  const [word = ''] = title.split(' ')
  return word.length > SHORT ? `${word.slice(0, SHORT - 3)}.` : word
}

/** Who leans among the markers, where, and who can be compared at all. */
export function Markers(view: ViewProps) {
  const { table, mayDecide } = useDecidedCourse()
  const compared = useFigures('markers', view.subject)
  const assessment = table.assessments.find((a) => a.id === view.subject)
  const byCriterion = assessment !== undefined && assessment.standardId !== null && assessment.marking !== 'judgement'
  const judged = useJudgedFigures('leans', byCriterion ? view.subject : null)
  const leans = judged?.assessmentId === view.subject && judged.criteria.length > 0 ? judged : undefined
  const [chosenId, setChosen] = useState<string | null>(null)
  const [criterionId, setCriterion] = useState<string | null>(null)
  const [wanted, setWanted] = useState('')
  const [order, setOrder] = useState<Order>('plan')
  const [asking, setAsking] = useState(false)
  const within = useRef<HTMLElement>(null)
  const markers = compared?.markers ?? NONE
  const rows = useMemo(() => orderRows(markers, (m) => m, order, wanted), [markers, order, wanted])
  const farthest = useMemo(() => [...markers].sort((a, b) => Math.abs(b.lean ?? 0) - Math.abs(a.lean ?? 0))[0], [markers])
  const chosen = rows.find((m) => m.id === chosenId) ?? (wanted ? rows[0] : farthest)
  const criterion = leans?.criteria.find((c) => c.id === criterionId)
  const step = (by: number) => {
    const next = rows[rows.findIndex((m) => m.id === chosen?.id) + by]
    if (next) setChosen(next.id)
  }
  useKeys([
    { key: 'ArrowDown', does: 'next marker', run: () => step(1) },
    { key: 'ArrowUp', does: 'marker before', run: () => step(-1) },
  ])
  if (!compared) return <WorkingOut />
  const apart = compared.groups.length > 1
  const columns = 5 + (leans?.criteria.length ?? 0)
  return (
    <div className="work">
      <main className="table-side">
        <CompareHead
          {...view}
          rows="markers"
          question="Do the markers hold one standard?"
          out={
            <TakeOut
              table={() => markersOut(compared, leans)}
              chart={{
                words: { title: `${compared.title}: the web of markers`, under: `${counted(compared.scripts, 'script')}, ${today()}` },
                within,
              }}
            />
          }
        >
          <ReliabilityLine compared={compared} />
          {apart && (
            <div className="note d-flex align-items-center gap-3 mb-2">
              <span className="ochre">
                {compared.groups.length} groups of markers share no script: each can be compared within itself only.
              </span>
              {mayDecide && compared.joins.length > 0 && (
                <Button size="sm" variant="outline-primary" onClick={() => setAsking(true)}>
                  Ask for the {counted(compared.joins.length, 'reading')} that {compared.joins.length === 1 ? 'joins' : 'join'} them
                </Button>
              )}
            </div>
          )}
          {compared.markers.length > MANY && (
            <div className={styles.bar}>
              <RowTools what="markers" wanted={wanted} onWanted={setWanted} order={order} onOrder={setOrder} />
            </div>
          )}
        </CompareHead>
        {markers.length === 0 ? (
          <p className="empty">
            Nobody has handed in a reading of {compared.title}. When they do, each marker stands here beside the others.
          </p>
        ) : (
          <table className={`grid ${styles.dense}`}>
            <thead>
              <tr>
                <th>marker</th>
                <th className="number">read</th>
                <th>leans</th>
                <th className="number">95%</th>
                <th className="number">own spread</th>
                {leans?.criteria.map((c) => (
                  <th key={c.id} className="text-center" title={c.title}>
                    {shortName(c.title)}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              <Rows
                items={rows}
                height={31}
                columns={columns}
                chosen={chosen ? rows.indexOf(chosen) : -1}
                row={(m, row) => (
                  <tr key={m.id} {...row} className="pick" aria-selected={m.id === chosen?.id} onClick={() => setChosen(m.id)}>
                    <td className="text-nowrap">
                      <button className="row-name" onClick={() => setChosen(m.id)}>
                        {m.name}
                      </button>
                      {apart && m.group > 0 && <span className="ochre small"> apart</span>}
                    </td>
                    <td className="number">{m.n}</td>
                    <td>
                      <Vial name={m.name} lean={m.lean} interval={m.interval} tolerance={compared.tolerance} unit={compared.unit} />
                    </td>
                    <td className="number soft">{m.interval ? `±${fixed((m.interval[1] - m.interval[0]) / 2)}` : '–'}</td>
                    <td className={`number ${m.fit.erratic ? 'ochre fw-semibold' : 'soft'}`} title={spreadInWords(m.fit)}>
                      {m.fit.erratic && 'erratic '}
                      {fixed(m.fit.spread)}
                    </td>
                    {leans?.criteria.map((c, k) => (
                      <LeanCell
                        key={c.id}
                        marker={m.name}
                        criterion={c}
                        lean={leans.leans[m.id]?.[k] ?? null}
                        chosen={m.id === chosen?.id && c.id === criterionId}
                        onChoose={() => {
                          setChosen(m.id)
                          setCriterion(c.id)
                        }}
                      />
                    ))}
                  </tr>
                )}
              />
            </tbody>
          </table>
        )}
        {rows.length === 0 && markers.length > 0 && <p className="soft mt-2">No marker is called that.</p>}
        <p className="small soft mt-2">
          bold: not chance · {leans && 'on pine: gives more than the others, on ochre: less · '}inside the lines: within ±
          {numeral(compared.tolerance)} {compared.unit} · own spread: 1 is as even as the others; from 1.5 on, where it is not chance,
          erratic: no rescaling corrects that
        </p>
      </main>
      <CloseUp placeRef={within}>
        {chosen && criterion && (
          <GivenOn assessment={assessment!} marker={chosen} criterion={criterion} onClose={() => setCriterion(null)} />
        )}
        {chosen && <MarkerCloseUp compared={compared} marker={chosen} leans={leans} onChoose={setChosen} />}
      </CloseUp>
      {asking && (
        <AskForReadings
          wanted={compared.joins}
          because={`Joins the markers of ${compared.title}, so that they can be compared`}
          onClose={() => setAsking(false)}
        />
      )}
    </div>
  )
}
