import { useState, type ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import { currentSection } from '#core/roll'
import { routes, type Collected, type DeliveryRow } from '#contract'
import { problemOf } from '../../../api/problem-of'
import { useKeys } from '../../../settings/keys'
import { usePersonLabels } from '../../../settings/names'
import { usePlanQuery, useRollQuery } from '../../../course/plan'
import { ask } from '../../../saving/ask'
import { useWrites, WriteProblem } from '../../../saving/writes'
import { counted, shownAt } from '../../../parts/format'
import { StandInState } from '../../../parts/StandInState'
import { useDeliveries } from './queries'
import { SortCloseUp } from './SortCloseUp'
import { KeyCap } from '../../../settings/KeyCap'
import { CloseUp } from '../../../parts/CloseUp'
import { useChosen } from '../../../parts/useChosen'

const NOBODY: never[] = []

/** What came through the submission box: placed by itself, or waiting to be sorted by hand. */
export function Box({ courseId, decides, nav }: { courseId: string; decides: boolean; nav: ReactNode }) {
  const came = useDeliveries(courseId)
  const plan = usePlanQuery(courseId)
  const roll = useRollQuery(courseId)
  const students = roll.data?.students.filter((s) => currentSection(s.stays) !== null) ?? NOBODY
  const label = usePersonLabels(roll.data?.students ?? NOBODY)
  const { write } = useWrites()
  const [collected, setCollected] = useState<Collected | null>(null)
  const list = came.data?.list ?? NOBODY
  const { at, gone, choose: setChosen } = useChosen(list.map((d: DeliveryRow) => d.id))
  const chosen = list[at] as DeliveryRow | undefined
  const inBox = came.data?.inBox ?? 0
  const collect = async () => {
    if (!decides || inBox === 0) return
    setCollected(await write('collect what is in the box', ask(routes.collect, { params: { courseId } })))
  }
  const step = (by: number) => setChosen((list[Math.max(0, Math.min(list.length - 1, at + by))] as DeliveryRow | undefined)?.id ?? null)
  useKeys([
    { key: 'ArrowDown', does: 'the next piece of work', run: () => step(1) },
    { key: 'ArrowUp', does: 'the piece of work before', run: () => step(-1) },
    ...(decides ? [{ key: 'c', does: 'collect what lies in the box', run: () => void collect() }] : []),
  ])
  const problem = problemOf(came)
  if (problem) return <div className="empty">{problem}</div>
  if (!came.data) return <div className="empty">Looking into the box…</div>
  const { counts } = came.data
  const titleOf = new Map(plan.data?.assessments.map((a) => [a.id, a.title]))
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>What came in</h1>
          <span className="soft">
            {counts.placed} placed · <span className={counts.waiting > 0 ? 'ochre' : ''}>{counts.waiting} to sort</span> · {counts.setAside}{' '}
            set aside
          </span>
          {nav}
        </div>
        <WriteProblem />
        {came.data.inBox === null ? (
          <p className="note bad">The submission box cannot be reached. What came in before is here; look again later.</p>
        ) : (
          <p className="d-flex gap-3 align-items-baseline">
            <span>
              {inBox === 0 ? (
                <span className="soft">Everything in the submission box is collected.</span>
              ) : (
                <>
                  <b>{inBox}</b> {inBox === 1 ? 'piece of work lies' : 'pieces of work lie'} in the submission box.
                </>
              )}
            </span>
            {decides && inBox > 0 && (
              <Button size="sm" onClick={() => void collect()}>
                Collect <KeyCap cap="c" />
              </Button>
            )}
          </p>
        )}
        {collected && (
          <p role="status">
            {collected.placed} placed, {collected.waiting} to sort, {collected.setAside} set aside.
            {collected.faults.map((f) => (
              <span key={f} className="d-block brick">
                {f}
              </span>
            ))}
          </p>
        )}
        {list.length === 0 ? (
          <div className="empty">
            Nothing came in yet. What students hand in stands here when it is collected: what fits goes to its script at once, the rest
            waits to be sorted.
          </div>
        ) : (
          <table className="grid">
            <thead>
              <tr>
                <th>came</th>
                <th>file</th>
                <th>said to be from</th>
                <th>for</th>
                <th>where it is</th>
              </tr>
            </thead>
            <tbody>
              {list.map((d: DeliveryRow) => (
                <tr key={d.id} className="pick" aria-selected={d === chosen} onClick={() => setChosen(d.id)}>
                  <td className="soft text-nowrap">{shownAt(d.cameAt, 'd MMM, HH:mm')}</td>
                  <td>
                    <button className="row-name border-0 bg-transparent p-0 text-start text-reset" onClick={() => setChosen(d.id)}>
                      {d.fileName}
                    </button>
                  </td>
                  <td className="number text-start">{d.candidate}</td>
                  <td>{d.assessment}</td>
                  <td>
                    {d.state === 'waiting' ? (
                      <span className="ochre">to sort: {d.why}</span>
                    ) : d.state === 'set aside' ? (
                      <span className="soft">set aside: {d.why}</span>
                    ) : (
                      <>
                        {label(d.studentId!)}
                        <span className="soft">
                          {titleOf.get(d.assessmentId!) !== d.assessment && `, ${titleOf.get(d.assessmentId!)}`}
                          {d.attempt! > 1 && `, attempt ${d.attempt}`}
                        </span>
                        {d.why ? (
                          <span className="ochre d-block small">{d.why}</span>
                        ) : (
                          d.daysLate > 0 && <span className="ochre"> · late by {counted(d.daysLate, 'day')}</span>
                        )}
                      </>
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
      <CloseUp>
        {gone && <p className="note">The piece of work that you had chosen is not in the list any more. Choose one to go on.</p>}
        {chosen && plan.data && (
          <SortCloseUp
            key={chosen.id}
            courseId={courseId}
            delivery={chosen}
            assessments={plan.data.assessments}
            students={students}
            label={label}
            decides={decides}
          />
        )}
        {decides && <StandInState courseId={courseId} name="submission box" />}
      </CloseUp>
    </div>
  )
}
