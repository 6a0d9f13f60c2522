import { useQuery } from '@tanstack/react-query'
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import type { AgreeRule } from '#core/agree'
import { settleReadings, type Change } from '#core/trial'
import { routes, type AskedReading, type Assessment } from '#contract'
import { call } from '../../api/client'
import { useCourse, useFigures } from '../../course/course'
import { useKeys } from '../../settings/keys'
import { usePersonLabels } from '../../settings/names'
import { useHeadingAfter } from '../../shell/heading'
import { AskForReadings } from '../../parts/AskForReadings'
import { AxisTicks } from '../../parts/AxisTicks'
import { ReadingsLine } from '../../parts/ReadingsLine'
import { counted, fixed, numeral } from '../../parts/format'
import { useQuestions } from '../../parts/questions/useQuestions'
import { Rows } from '../../parts/Rows'
import { tickStep, ticksOf } from '../../parts/ticks'
import { agreedBetween, isAgreed } from './between'
import { BulkBar, type BulkRule } from './BulkBar'
import { leansOf } from './leans'
import { Legend } from './Legend'
import { lookedOver } from './looked-over'
import { keepTyped } from './queue'
import type { QueueRow, ReadingQueue } from './queue-rows'
import { SettleCloseUp } from './SettleCloseUp'
import { CloseUp } from '../../parts/CloseUp'
import styles from './reconcile.module.css'
import { Spoken } from '../../parts/Spoken'
import { useChosen } from '../../parts/useChosen'

interface Props {
  queue: ReadingQueue
  /** Those that are shown. */
  rows: QueueRow[]
  /** The script that is looked at to begin with; null for the first. */
  first: string | null
  /** How the queue is narrowed. */
  scope: string
  head: ReactNode
}

const ROW = 34
const LEFT_QUEUE = 'The script that you had chosen has left the queue: somebody took a reading back or settled it. Choose a row to go on.'
const NOT_AGREED = { holds: false, agrees: null }

/** The queue as rows on one axis, and the script that is looked at. */
export function QueuePart({ queue, rows, first, scope, head }: Props) {
  const { id, table, trial, propose, setTrial, mayDecide } = useCourse()
  const label = usePersonLabels(table.students)
  const ids = useMemo(() => rows.map((r) => r.scriptId), [rows])
  const { id: chosenId, at, gone, choose: setChosen } = useChosen(ids, { first, scope })
  const [asking, setAsking] = useState<QueueRow | null>(null)
  const chosen = rows[at] as QueueRow | undefined
  useHeadingAfter(chosen?.scriptId)
  const assessments = new Map(table.assessments.map((a) => [a.id, a]))
  const one = queue.assessmentId === null ? null : assessments.get(queue.assessmentId)!
  // Of several assessments, in percent: their marks have no axis in common.
  const scaleOf = (r: QueueRow) => (one ? 1 : 100 / assessments.get(r.assessmentId)!.outOf)
  const { within, lowest, typed, most } = useMemo(() => lookedOver(rows, queue.assessmentId, table), [rows, queue, table])
  const markers = useFigures('markers', chosen?.assessmentId ?? null)
  const leans = markers?.subject === chosen?.assessmentId ? leansOf(markers, chosen) : null
  const asked = useQuery({ queryKey: ['further readings', id], queryFn: () => call(routes.furtherReadings, { params: { courseId: id } }) })
  const waits = waiting(asked.data)
  const said = useQuery({ queryKey: ['between', id], queryFn: () => call(routes.between, { params: { courseId: id } }) })
  // The last of each that is about the readings there are.
  const betweenOf = new Map((said.data ?? []).filter((b) => b.holds && !b.withdrawn).map((b) => [b.scriptId, b]))
  const questions = (useQuestions(id).data ?? []).filter((q) => q.answer === null)
  const askedAbout = new Set(questions.map((q) => q.scriptId))
  const list = useRef<HTMLTableSectionElement>(null)
  useEffect(() => {
    list.current?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' })
  }, [chosenId])

  /** The script that was settled last, to be said beside the one that came after it. */
  const [settled, setSettled] = useState<string | null>(null)
  const spoken = (r: QueueRow) =>
    `${label(r.studentId)}, ${assessments.get(r.assessmentId)!.title}: readings ${r.readings.map((x) => numeral(x.mark)).join(' and ')}, spread ${numeral(r.spread)}, ${r.agreed === null ? 'open' : `agreed ${fixed(r.agreed)}`}`
  const before = rows.find((r) => r.scriptId === settled && r.agreed !== null && r !== chosen)

  const goTo = (i: number) => {
    const next = rows[Math.max(0, Math.min(rows.length - 1, i))]
    if (next) setChosen(next.scriptId)
  }
  const stepOf = (rule: AgreeRule, { step }: Assessment) => (rule.kind === 'value' ? null : step)
  const settle = (row: QueueRow, rule: AgreeRule) => {
    if (!mayDecide) return
    propose(settleReadings([row], rule, stepOf(rule, assessments.get(row.assessmentId)!)), `settle ${label(row.studentId)}`)
    setSettled(row.scriptId)
    const nextOpen = rows.find((r, i) => i > at && r.agreed === null)
    if (nextOpen) setChosen(nextOpen.scriptId)
  }
  const settleWithin = (rule: BulkRule) => {
    if (within.length === 0 || !mayDecide) return
    const changes = [...new Set(within.map((r) => r.assessmentId))].flatMap((of) =>
      settleReadings(
        within.filter((r) => r.assessmentId === of),
        { kind: rule },
        assessments.get(of)!.step,
      ),
    )
    propose(changes, `settle ${within.length} within tolerance`)
  }
  /** Scripts that their two readers agreed on between them. */
  const theirs = rows.filter((r) => r.agreed === null && isAgreed(betweenOf.get(r.scriptId) ?? NOT_AGREED))
  const settleTheirs = () => {
    if (!mayDecide) return
    propose(
      theirs.flatMap((r) => settleReadings([r], agreedBetween(betweenOf.get(r.scriptId)!), null)),
      `settle ${theirs.length} as agreed between readers`,
    )
  }
  const isAbout = (row: QueueRow) => (c: Change) => (c.kind === 'settle' || c.kind === 'reopen') && c.scriptId === row.scriptId
  /** Takes back what is being tried on a script; opens one that is settled by a decision. */
  const open = (row: QueueRow) => {
    if (!mayDecide) return
    if (trial.changes.some(isAbout(row)))
      setTrial(
        trial.changes.filter((c) => !isAbout(row)(c)),
        `leave ${label(row.studentId)} as it was`,
      )
    else if (row.agreed !== null && !row.ruled) propose([{ kind: 'reopen', scriptId: row.scriptId }], `open ${label(row.studentId)} again`)
  }

  useKeys([
    { key: 'ArrowDown', does: 'next script', run: () => goTo(at + 1) },
    { key: 'ArrowUp', does: 'script before', run: () => goTo(at - 1) },
    ...(chosen && mayDecide
      ? [
          { key: 'm', does: 'settle by mean', run: () => settle(chosen, { kind: 'mean' }) },
          { key: 'd', does: 'settle by median', run: () => settle(chosen, { kind: 'median' }) },
          { key: 'h', does: 'settle by the highest', run: () => settle(chosen, { kind: 'highest' }) },
          { key: 'l', does: 'settle by the lowest', run: () => settle(chosen, { kind: 'lowest' }) },
          ...(leans
            ? [
                {
                  key: 'v',
                  does: 'settle by the mean of the levelled readings',
                  run: () => settle(chosen, { kind: 'levelled' as const, leans, outOf: assessments.get(chosen.assessmentId)!.outOf }),
                },
              ]
            : []),
          ...(betweenOf.has(chosen.scriptId)
            ? [
                {
                  key: 'e',
                  does: 'settle as its two readers proposed',
                  run: () => settle(chosen, agreedBetween(betweenOf.get(chosen.scriptId)!)),
                },
              ]
            : []),
          ...(chosen.typed === null
            ? []
            : [{ key: 't', does: 'keep the mark that was typed', run: () => settle(chosen, keepTyped(chosen.typed!)) }]),
          ...chosen.readings.slice(0, 4).map((r, i) => ({
            key: String(i + 1),
            does: `settle by reading ${i + 1}`,
            run: () => settle(chosen, { kind: 'senior', markerId: r.markerId }),
          })),
          { key: 'o', does: 'a mark of your own', run: () => document.getElementById('own-mark')?.focus() },
          { key: 'a', does: 'ask for a further reading', run: () => setAsking(chosen) },
          { key: 'Delete', does: 'leave it open, or open it again', run: () => open(chosen) },
        ]
      : []),
  ])

  const top = one?.outOf ?? 100
  const from = Math.max(0, Math.floor(Math.min(lowest, top) / tickStep(top)) * tickStep(top))
  return (
    <div className="work">
      <main className="table-side">
        {head}
        <Spoken>
          {gone
            ? LEFT_QUEUE
            : chosen
              ? `${before ? `Settled at ${fixed(before.agreed)}. ` : ''}${spoken(chosen)}. ${at + 1} of ${rows.length}.`
              : ''}
        </Spoken>
        {within.length > 0 && mayDecide && <BulkBar scripts={within.length} onSettle={settleWithin} />}
        {theirs.length > 0 && mayDecide && (
          <p className="note d-flex gap-2 align-items-center">
            {counted(theirs.length, 'script')} {theirs.length === 1 ? 'was' : 'were'} agreed on by {theirs.length === 1 ? 'its' : 'their'}{' '}
            two readers:
            <Button size="sm" variant="outline-primary" onClick={settleTheirs}>
              Settle {theirs.length === 1 ? 'it' : `all ${theirs.length}`} so
            </Button>
          </p>
        )}
        {rows.length === 0 ? (
          <p className="empty">No script is left by what is chosen above.</p>
        ) : (
          <table className={`grid ${styles.queue}`}>
            <thead>
              <tr>
                <th>student</th>
                <th className={styles.axis} aria-hidden>
                  <AxisTicks ticks={ticksOf(from, top)} from={from} to={top} inset={2} />
                </th>
                <th className="number">spread</th>
                <th>grade at stake</th>
                <th className="number">agreed</th>
              </tr>
            </thead>
            <tbody ref={list}>
              <Rows
                items={rows}
                height={one ? ROW : 46}
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
                    <td className="fw-semibold">
                      {label(r.studentId)}
                      {askedAbout.has(r.scriptId) && <span className="ochre small fw-normal"> asked</span>}
                      {!one && <small className={styles.under}>{assessments.get(r.assessmentId)!.title}</small>}
                    </td>
                    <td className={styles.line}>
                      <ReadingsLine
                        readings={r.readings.map((x) => ({ ...x, mark: x.mark * scaleOf(r) }))}
                        agreed={r.agreed === null ? null : r.agreed * scaleOf(r)}
                        trying={r.trying}
                        tolerance={assessments.get(r.assessmentId)!.tolerance * scaleOf(r)}
                        from={from}
                        to={top}
                        typed={r.typed === null ? null : r.typed * scaleOf(r)}
                        words={`Readings ${r.readings.map((x) => numeral(x.mark)).join(' and ')}${r.typed === null ? '' : `, ${numeral(r.typed)} typed in the sheet`}, spread ${numeral(r.spread)}`}
                      />
                    </td>
                    <td className={`number ${r.over ? 'ochre fw-semibold' : ''}`}>{fixed(r.spread)}</td>
                    <td className="text-nowrap">
                      <Stake row={r} />
                    </td>
                    <td className="number">
                      <Agreed
                        row={r}
                        waiting={waits.get(`${r.assessmentId} ${r.studentId}`) ?? 0}
                        theirs={isAgreed(betweenOf.get(r.scriptId) ?? NOT_AGREED)}
                      />
                    </td>
                  </tr>
                )}
              />
            </tbody>
          </table>
        )}
        <Legend most={most} tolerance={one?.tolerance ?? null} typed={typed} />
      </main>
      <CloseUp>
        {gone && <p className="note">{LEFT_QUEUE}</p>}
        {chosen && (
          <SettleCloseUp
            key={chosen.scriptId}
            row={chosen}
            assessment={assessments.get(chosen.assessmentId)!}
            leans={leans}
            between={betweenOf.get(chosen.scriptId) ?? null}
            said={(said.data ?? []).filter((b) => b.scriptId === chosen.scriptId)}
            asked={(asked.data ?? []).filter((a) => a.studentId === chosen.studentId && a.assessmentId === chosen.assessmentId)}
            questions={questions.filter((q) => q.scriptId === chosen.scriptId)}
            onSettle={(rule) => settle(chosen, rule)}
            onOpen={() => open(chosen)}
            onAsk={() => setAsking(chosen)}
          />
        )}
      </CloseUp>
      {asking && (
        <AskForReadings
          wanted={[{ assessmentId: asking.assessmentId, studentId: asking.studentId, markerId: null }]}
          because={`Its readings lie ${numeral(asking.spread)} apart`}
          onClose={() => setAsking(null)}
        />
      )}
    </div>
  )
}

function Stake({ row: { stake } }: { row: QueueRow }) {
  if (!stake || stake[0] === null) return <span className="soft">–</span>
  return stake[0] === stake[1] ? <span className="soft">{stake[0]}</span> : `${stake[0]} or ${stake[1]}`
}

function Agreed({ row: r, waiting: n, theirs }: { row: QueueRow; waiting: number; theirs: boolean }) {
  if (r.agreed !== null)
    return (
      <>
        <b>{fixed(r.agreed)}</b>
        {(r.trying || r.ruled) && (
          <span className="soft small"> {[r.ruled && 'by rule', r.trying && 'trying'].filter(Boolean).join(', ')}</span>
        )}
      </>
    )
  return (
    <>
      <b className="ochre">{r.reopened ? 'open again' : 'open'}</b>
      {r.trying && <span className="soft small"> trying</span>}
      {theirs && <span className="soft small d-block">agreed between them</span>}
      {n > 0 && <span className="soft small d-block">reading asked for</span>}
    </>
  )
}

/** Scripts that wait for a reading that was asked for, with how many. */
function waiting(asked: readonly AskedReading[] | undefined): Map<string, number> {
  const found = new Map<string, number>()
  for (const a of asked ?? [])
    if (a.state !== 'handed in') {
      const key = `${a.assessmentId} ${a.studentId}`
      found.set(key, (found.get(key) ?? 0) + 1)
    }
  return found
}
