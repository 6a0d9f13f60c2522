import { useQuery } from '@tanstack/react-query'
import { useRef, useState, type ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import { routes } from '#contract'
import { addressOf, call, messageOf } from '../../api/client'
import { useDecidedCourse } from '../../course/course'
import { usePersonLabels } from '../../settings/names'
import { useSaved } from '../../saving/saved'
import { StandInState } from '../../parts/StandInState'
import { TitleField } from '../../parts/TitleField'
import { WorkingOut } from '../../parts/WorkingOut'
import { counted, numeral, shownAt } from '../../parts/format'
import { useIssues, useMayTell } from './useIssues'
import { CloseUp } from '../../parts/CloseUp'

/** Handing the issue in force over: what the records office took, what it refused and why, and mending just that. */
export function OfficePart({ nav }: { nav: ReactNode }) {
  const { id, table } = useDecidedCourse()
  const mayTell = useMayTell()
  const label = usePersonLabels(table.students)
  const { inForce, again } = useIssues()
  const { saving } = useSaved()
  const state = useQuery({ queryKey: ['records', id], queryFn: () => call(routes.recordsState, { params: { courseId: id } }) })
  const [mended, setMended] = useState<Record<string, string>>({})
  const [problem, setProblem] = useState<string | null>(null)
  const [busy, setBusy] = useState(false)
  // Kept until it is answered: asked again, the office knows it by it.
  const key = useRef<string | null>(null)
  const doing = async (work: () => Promise<unknown>) => {
    setProblem(null)
    setBusy(true)
    try {
      await saving(work())
    } catch (e) {
      setProblem(messageOf(e))
    } finally {
      setBusy(false)
      await again()
    }
  }
  const send = (body: { key: string; mended?: { studentId: string; number: string }[] }) =>
    doing(async () => {
      await call(routes.sendToRecords, { params: { courseId: id }, body })
      key.current = null
      setMended({})
    })
  // It then stands among those refused, with its number to be mended.
  const withdraw = (handOverId: string, studentId: string) =>
    doing(() => call(routes.withdrawFromRecords, { params: { courseId: id, handOverId }, body: { studentId } }))
  const fresh = () => (key.current ??= crypto.randomUUID())
  const head = (
    <div className="stop-head">
      <h1>Handing over to the records office</h1>
      {nav}
    </div>
  )
  if (!state.data) return <WorkingOut />
  const { list, taken, refused, waiting, ungraded } = state.data
  const unanswered = list.find((h) => h.receipt === null)
  const changed = refused.flatMap((r) => {
    const number = mended[r.studentId]
    return number !== undefined && number !== r.number ? [{ studentId: r.studentId, number }] : []
  })
  // Where the office has mended its side.
  const unchanged = refused.filter((r) => r.number !== '').map(({ studentId, number }) => ({ studentId, number }))
  return (
    <div className="work">
      <main className="table-side">
        {head}
        {!inForce ? (
          <p className="empty">No issue is in force. Once all who must have signed one, it is handed over here.</p>
        ) : (
          <>
            <p>
              Issue {inForce.number}: <b>{taken}</b> taken by the office, <b>{refused.length}</b> refused, <b>{waiting}</b> not sent yet
              {ungraded > 0 && `, ${ungraded} without a grade, which are not sent`}.
            </p>
            {unanswered && (
              <p className="note warn">
                The office has not answered what {unanswered.by} sent {shownAt(unanswered.at, 'd MMM, HH:mm')}, and may have entered it or
                not.{' '}
                {mayTell && (
                  <Button size="sm" variant="outline-primary" disabled={busy} onClick={() => void send({ key: unanswered.id })}>
                    Ask again
                  </Button>
                )}{' '}
                <span className="soft">Under the same key nothing is entered twice.</span>
              </p>
            )}
            {mayTell && (
              <div className="buttons mb-3">
                {(waiting > 0 || busy) && (
                  <Button size="sm" disabled={busy || !!unanswered} onClick={() => void send({ key: fresh() })}>
                    {busy ? 'Handing over…' : `Hand over ${counted(waiting, 'result')}`}
                  </Button>
                )}
                <a
                  className="btn btn-sm btn-outline-primary"
                  href={addressOf(routes.oneRoster, { courseId: id, number: inForce.number })}
                  download
                >
                  OneRoster file for others
                </a>
                <a
                  className="btn btn-sm btn-outline-primary"
                  href={addressOf(routes.recordsFile, { courseId: id, number: inForce.number })}
                  download
                >
                  CSV by numbers for an office
                </a>
              </div>
            )}
            {problem && (
              <p className="note bad" role="alert">
                {problem}
              </p>
            )}
            {refused.length > 0 && (
              <section style={{ maxWidth: 860 }}>
                <h2>Refused</h2>
                <table className="grid typed-here">
                  <thead>
                    <tr>
                      <th>student</th>
                      <th>grade</th>
                      <th className="number">percent</th>
                      <th>why</th>
                      <th>number to send</th>
                    </tr>
                  </thead>
                  <tbody>
                    {refused.map((r) => (
                      <tr key={r.studentId}>
                        <td>
                          <Link to={`/courses/${id}/students/${r.studentId}`}>{label(r.studentId)}</Link>
                        </td>
                        <td>{r.grade}</td>
                        <td className="number">{numeral(r.percent)}</td>
                        <td className="ochre small">{r.why}</td>
                        <td style={{ width: 190 }}>
                          <TitleField
                            label={`Number of ${label(r.studentId)}`}
                            value={mended[r.studentId] ?? r.number}
                            disabled={!mayTell}
                            onCommit={(number) => setMended((m) => ({ ...m, [r.studentId]: number }))}
                          />
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
                {mayTell && (
                  <div className="buttons mt-2">
                    <Button
                      size="sm"
                      variant="outline-primary"
                      disabled={busy || changed.length === 0 || !!unanswered}
                      onClick={() => void send({ key: fresh(), mended: changed })}
                    >
                      Send {changed.length === 0 ? 'what is mended' : `the ${changed.length} mended`}
                    </Button>
                    <Button
                      size="sm"
                      variant="outline-primary"
                      disabled={busy || changed.length > 0 || !!unanswered || unchanged.length === 0}
                      onClick={() => void send({ key: fresh(), mended: unchanged })}
                    >
                      Send {counted(unchanged.length, 'result')} again unchanged
                    </Button>
                    <span className="soft small">
                      Ask the office for the number it knows them by. Who has withdrawn stays refused: the issue has their result all the
                      same.
                    </span>
                  </div>
                )}
              </section>
            )}
          </>
        )}
      </main>
      <CloseUp>
        <section>
          <h2>Handed over</h2>
          {list.length === 0 ? (
            <p className="soft">Nothing yet.</p>
          ) : (
            <ul className="people small">
              {list.map((h) => (
                <li key={h.id} className="d-block">
                  {shownAt(h.at, 'd MMM yyyy, HH:mm')}, {h.by}: {counted(h.sent, 'result')} of issue {h.number}
                  <span className="d-block soft">
                    {h.receipt === null
                      ? 'not answered'
                      : `receipt ${h.receipt}: ${h.sent - h.refused.length} taken${h.refused.length > 0 ? `, ${h.refused.length} refused` : ''}`}
                  </span>
                  {h.otherwise.map((r) => (
                    <span className="d-block" key={r.studentId}>
                      {label(r.studentId)} under {r.number}, which is not on the roll{' '}
                      {mayTell && (
                        <button
                          className="quiet-button"
                          disabled={busy || !!unanswered}
                          aria-label={`Withdraw the result of ${label(r.studentId)} under ${r.number}`}
                          onClick={() => void withdraw(h.id, r.studentId)}
                        >
                          withdraw it
                        </button>
                      )}
                    </span>
                  ))}
                </li>
              ))}
            </ul>
          )}
        </section>
        {mayTell && <StandInState courseId={id} name="records office" />}
      </CloseUp>
    </div>
  )
}
