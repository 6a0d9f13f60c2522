import { useRef, useState, useEffect } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { AgreeRule } from '#core/agree'
import { settleReadings } from '#core/trial'
import { useCourse, useFigures } from '../../course/course'
import { useKeys } from '../../settings/keys'
import { usePersonLabels } from '../../settings/names'
import { AxisTicks } from '../../parts/AxisTicks'
import { ReadingShape, ReadingsLine, TypedShape } from '../../parts/ReadingsLine'
import { counted, fixed, numeral } from '../../parts/format'
import { Rows } from '../../parts/Rows'
import { tickStep } from '../../parts/ticks'
import { WorkingOut } from '../../parts/WorkingOut'
import { keepTyped, type QueueRow } from './queue'
import { SettleCloseUp } from './SettleCloseUp'
import './reconcile.css'

const BULK: { kind: 'mean' | 'median' | 'highest' | 'lowest' | 'first'; words: string }[] = [
  { kind: 'mean', words: 'the mean' },
  { kind: 'median', words: 'the median' },
  { kind: 'highest', words: 'the highest' },
  { kind: 'lowest', words: 'the lowest' },
  { kind: 'first', words: 'the first reading' },
]

const NONE: QueueRow[] = []
const ROW = 34

/** Scripts whose readings disagree, worst first; settled one by one or, within the tolerance, in bulk. */
export default function Reconcile() {
  const { table, trial, propose, setTrial, mayDecide } = useCourse()
  const label = usePersonLabels(table.students)
  const [wanted, setAssessment] = useState<string | null>(null)
  const queue = useFigures('reconcile', wanted)
  const assessment = table.assessments.find((a) => a.id === queue?.assessmentId)
  // Rows keep their places while a trial settles them, so that the next one is where one looks for it.
  const rows = queue?.rows ?? NONE
  const [chosenId, setChosen] = useState<string | null>(null)
  const [bulk, setBulk] = useState<(typeof BULK)[number]['kind']>('mean')
  const chosen = rows.find((r) => r.scriptId === chosenId) ?? rows[0]
  const at = chosen ? rows.indexOf(chosen) : -1
  const list = useRef<HTMLTableSectionElement>(null)
  useEffect(() => {
    list.current?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' })
  }, [chosenId])

  const goTo = (i: number) => {
    const next = rows[Math.max(0, Math.min(rows.length - 1, i))]
    if (next) setChosen(next.scriptId)
  }
  const settle = (row: QueueRow, rule: AgreeRule) => {
    if (!mayDecide || !assessment) return
    propose(settleReadings([row], rule, rule.kind === 'value' ? null : assessment.step), `settle ${label(row.studentId)}`)
    const nextOpen = rows.find((r, i) => i > at && r.agreed === null)
    if (nextOpen) setChosen(nextOpen.scriptId)
  }
  const within = rows.filter((r) => !r.over && r.agreed === null)
  const settleWithin = () => {
    if (assessment && within.length > 0 && mayDecide)
      propose(settleReadings(within, { kind: bulk }, assessment.step), `settle ${within.length} within tolerance`)
  }
  const unsettle = (row: QueueRow) =>
    setTrial(
      trial.changes.filter((c) => c.kind !== 'settle' || c.scriptId !== row.scriptId),
      `leave ${label(row.studentId)} open`,
    )

  useKeys([
    { key: 'ArrowDown', does: 'next script', run: () => goTo(at + 1) },
    { key: 'ArrowUp', does: 'script before', run: () => goTo(at - 1) },
    ...(chosen && mayDecide
      ? [
          { key: 'm', does: 'settle by mean', run: () => settle(chosen, { kind: 'mean' }) },
          { key: 'd', does: 'settle by median', run: () => settle(chosen, { kind: 'median' }) },
          { key: 'h', does: 'settle by the highest', run: () => settle(chosen, { kind: 'highest' }) },
          { key: 'l', does: 'settle by the lowest', run: () => settle(chosen, { kind: 'lowest' }) },
          ...(chosen.typed === null
            ? []
            : [{ key: 't', does: 'keep the mark that was typed', run: () => settle(chosen, keepTyped(chosen.typed!)) }]),
          ...chosen.readings.slice(0, 4).map((r, i) => ({
            key: String(i + 1),
            does: `settle by reading ${i + 1}`,
            run: () => settle(chosen, { kind: 'senior', markerId: r.markerId }),
          })),
          { key: 'o', does: 'a mark of your own', run: () => document.getElementById('own-mark')?.focus() },
          { key: 'Delete', does: 'leave it open again', run: () => chosen.trying && unsettle(chosen) },
          { key: 'b', does: 'settle all within tolerance', run: settleWithin },
        ]
      : []),
  ])

  if (!queue) return <WorkingOut />
  if (!assessment)
    return (
      <div className="empty">
        No script has two readings yet. When a second reading is handed in, the scripts whose readings disagree queue up here, worst first.
      </div>
    )

  const open = rows.filter((r) => r.agreed === null || r.trying)
  const overOpen = rows.filter((r) => r.over && r.agreed === null).length
  const lowest = rows.reduce((low, r) => r.readings.reduce((m, x) => Math.min(m, x.mark), Math.min(low, r.typed ?? low)), assessment.outOf)
  const step = tickStep(assessment.outOf)
  const from = Math.max(0, Math.floor(lowest / step) * step)
  const ticks = Array.from({ length: Math.round((assessment.outOf - from) / step) + 1 }, (_, i) => from + i * step)
  const settledCount = rows.length - rows.filter((r) => r.agreed === null).length
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>{overOpen === 0 ? 'Nothing over tolerance' : `${counted(overOpen, 'script')} to settle`}</h1>
          <span className="soft small">
            {settledCount} of {rows.length} settled · tolerance {numeral(assessment.tolerance)}
          </span>
          <div className="end">
            <Form.Select size="sm" aria-label="Assessment" value={assessment.id} onChange={(e) => setAssessment(e.target.value)}>
              {table.assessments
                .filter((a) => queue.toSettle.includes(a.id))
                .map((a) => (
                  <option key={a.id} value={a.id}>
                    {a.title}
                  </option>
                ))}
            </Form.Select>
          </div>
        </div>
        {within.length > 0 && mayDecide && (
          <p className="note d-flex gap-2 align-items-center flex-wrap">
            {counted(within.length, 'script')} within tolerance {within.length === 1 ? 'waits' : 'wait'}:
            <Form.Select
              size="sm"
              aria-label="Rule for scripts within tolerance"
              value={bulk}
              onChange={(e) => setBulk(e.target.value as typeof bulk)}
            >
              {BULK.map((b) => (
                <option key={b.kind} value={b.kind}>
                  {b.words}
                </option>
              ))}
            </Form.Select>
            <Button size="sm" variant="outline-primary" onClick={settleWithin}>
              Settle all {within.length} <kbd>B</kbd>
            </Button>
          </p>
        )}
        <table className="grid queue">
          <thead>
            <tr>
              <th>student</th>
              <th className="axis" aria-hidden>
                <AxisTicks ticks={ticks} from={from} to={assessment.outOf} inset={2} />
              </th>
              <th className="num">spread</th>
              <th>grade at stake</th>
              <th className="num">agreed</th>
            </tr>
          </thead>
          <tbody ref={list}>
            <Rows
              of={rows}
              height={ROW}
              columns={5}
              chosen={at}
              row={(r, row) => (
                <tr
                  key={r.scriptId}
                  {...row}
                  className="pick"
                  aria-selected={r.scriptId === chosen?.scriptId}
                  onClick={() => setChosen(r.scriptId)}
                >
                  <td className="fw-semibold">{label(r.studentId)}</td>
                  <td className="line">
                    <ReadingsLine
                      readings={r.readings}
                      agreed={r.agreed}
                      trying={r.trying}
                      tolerance={assessment.tolerance}
                      from={from}
                      to={assessment.outOf}
                      typed={r.typed}
                      words={`Readings ${r.readings.map((x) => numeral(x.mark)).join(' and ')}${r.typed === null ? '' : `, ${numeral(r.typed)} typed in the sheet`}, spread ${numeral(r.spread)}`}
                    />
                  </td>
                  <td className={`num ${r.over ? 'ochre fw-semibold' : ''}`}>{fixed(r.spread)}</td>
                  <td>
                    {r.stake[0] !== r.stake[1] && r.stake[0] ? (
                      `${r.stake[0]} or ${r.stake[1]}`
                    ) : (
                      <span className="soft">{r.stake[0] ?? '–'}</span>
                    )}
                  </td>
                  <td className="num">
                    {r.agreed === null ? (
                      <b className="ochre">open</b>
                    ) : (
                      <>
                        <b>{fixed(r.agreed)}</b>
                        {r.trying && <span className="soft small"> trying</span>}
                      </>
                    )}
                  </td>
                </tr>
              )}
            />
          </tbody>
        </table>
        <p className="legend small soft">
          {['first reading', 'second', 'third']
            .slice(
              0,
              rows.reduce((most, r) => Math.max(most, r.readings.length), 2),
            )
            .map((words, i) => (
              <span key={words}>
                <svg width="14" height="14" aria-hidden>
                  <ReadingShape nth={i} cx={7} cy={7} />
                </svg>
                {words}
              </span>
            ))}
          <span>
            <i className="band" /> within {numeral(assessment.tolerance)}
          </span>
          <span>
            <i className="tick" /> agreed
          </span>
          {rows.some((r) => r.typed !== null) && (
            <span>
              <svg width="14" height="14" aria-hidden>
                <TypedShape cx={7} cy={7} />
              </svg>
              typed in the sheet
            </span>
          )}
        </p>
        {open.length === 0 && <p className="note">Every script of {assessment.title} is settled.</p>}
      </main>
      <aside className="close-up" aria-label="Close-up">
        {chosen && (
          <SettleCloseUp row={chosen} assessment={assessment} onSettle={(rule) => settle(chosen, rule)} onOpen={() => unsettle(chosen)} />
        )}
      </aside>
    </div>
  )
}
