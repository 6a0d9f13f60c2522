import { useEffect, useMemo, useState } from 'react'
import { Button } from 'react-bootstrap'
import { useNavigate } from 'react-router'
import { checkBoundaries, isSameSet, type Boundary } from '#core/grades'
import { useCourse, useFigures } from '../../course/course'
import { useKeys } from '../../settings/keys'
import { NumberField } from '../../parts/NumberField'
import { PeopleList } from '../../parts/PeopleList'
import { Rows } from '../../parts/Rows'
import { WorkingOut } from '../../parts/WorkingOut'
import { counted, fixed, numeral, share, signed } from '../../parts/format'
import { BoundChart, GRAIN } from './BoundChart'
import './bound.css'

const ZONE = 1
const ROW = 31

/** The boundaries on the final distribution: pulled, stepped or typed, with what each move does. */
export default function Bound() {
  const { id, table, tried, current, propose, preview, setTrial, trial, mayDecide } = useCourse()
  const navigate = useNavigate()
  // From the trial itself, not from what is worked out of it: the next key must step from here.
  const { boundaries } = tried
  const figures = useFigures('bound', ZONE)
  const [chosenAt, setChosen] = useState(1)
  /** Limits as they were typed, while they are no set that could be in force. */
  const [typed, setTyped] = useState<Boundary[] | null>(null)
  const inTrial = boundaries.map((b) => `${b.grade} ${b.from}`).join()
  // What is in force or tried has changed, by Discard for one: what was typed against what stood before is done with.
  useEffect(() => setTyped(null), [inTrial])
  const findings = typed ? checkBoundaries(typed, table.policy.above100) : []
  const chosen = Math.min(chosenAt, boundaries.length - 2)
  const boundary = boundaries[chosen]

  const moved = (at: number, from: number, of = boundaries): Boundary[] => of.map((b, i) => (i === at ? { ...b, from } : b))
  /** Tries a set of limits as a whole; one that could not be in force waits, as typed, until it can or is put back. */
  const tryOut = (next: Boundary[], what: string) => {
    preview(null)
    if (!mayDecide) return
    if (checkBoundaries(next, table.policy.above100).length > 0) return setTyped(next)
    setTyped(null)
    if (isSameSet(next, table.boundaries))
      setTrial(
        trial.changes.filter((c) => c.kind !== 'bound'),
        'boundaries back as adopted',
      )
    else propose([{ kind: 'bound', boundaries: next, over: table.boundaries }], what)
  }
  const put = (at: number, from: number) => tryOut(moved(at, from, typed ?? boundaries), `${boundaries[at]!.grade} begins at ${from}`)
  const pull = (at: number, from: number) => {
    const next = moved(at, from)
    if (checkBoundaries(next, table.policy.above100).length === 0) preview([{ kind: 'bound', boundaries: next, over: table.boundaries }])
  }
  const step = (by: number) => boundary && put(chosen, Number((boundary.from + by).toFixed(3)))
  useKeys([
    { key: 'ArrowLeft', does: 'chosen boundary half a percent down', run: () => step(-GRAIN) },
    { key: 'ArrowRight', does: 'chosen boundary half a percent up', run: () => step(GRAIN) },
    { key: '[', does: 'the boundary above', run: () => setChosen(Math.max(0, chosen - 1)) },
    { key: ']', does: 'the boundary below', run: () => setChosen(Math.min(boundaries.length - 2, chosen + 1)) },
  ])

  const near = useMemo(() => figures?.near.filter((n) => n.grade === boundary?.grade) ?? [], [figures, boundary])
  const exactly = near.filter((n) => n.distance === 0)
  const upTo = boundary?.grade ?? ''
  const aboveShare = (list: { grade: string; count: number }[], of: number) =>
    of === 0 ? null : list.slice(0, chosen + 1).reduce((n, c) => n + c.count, 0) / of
  if (current.students.every((s) => s.final === null))
    return (
      <div className="empty">
        Nobody has a final percent yet, so there is no distribution to draw boundaries on. Clear what is open at Mark and Reconcile first.
      </div>
    )
  if (!figures) return <WorkingOut />
  const { counts, before, impact, sections } = figures
  const all = aboveShare(
    counts,
    counts.reduce((n, c) => n + c.count, 0),
  )
  const wasFrom = table.boundaries.find((b) => b.grade === boundary?.grade)?.from
  const was = (grade: string, count: number) => {
    const then = before.find((b) => b.grade === grade)?.count
    if (then === count) return null
    return <span className="soft small fw-normal d-block">{then === undefined ? 'new' : `was ${then}`}</span>
  }
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>Where do the grades begin?</h1>
          <div className="end soft small">pull a line, step it with ← →, or type below · hollow: within {ZONE} percent of a line</div>
        </div>
        <BoundChart
          result={current}
          boundaries={boundaries}
          adopted={table.boundaries}
          zone={ZONE}
          chosen={chosen}
          disabled={!mayDecide}
          onChoose={setChosen}
          onPull={pull}
          onLetGo={put}
          onPick={(s) => void navigate(`/courses/${id}/students/${s}`)}
        />
        {typed && (
          <div className="note bad" role="alert">
            {findings.map((f) => (
              <p className="mb-1" key={`${f.row} ${f.kind}`}>
                {f.message}{' '}
                {f.fix && (
                  <button className="quiet-button" onClick={() => tryOut(f.fix!, 'boundaries as percents')}>
                    Make it {f.fix.map((b) => numeral(b.from)).join(', ')}
                  </button>
                )}
              </p>
            ))}
            <p className="mb-0">
              The limits as typed are not tried: {boundaries.map((b) => `${b.grade} ${numeral(b.from)}`).join(', ')}{' '}
              {trial.changes.some((c) => c.kind === 'bound') ? 'are' : 'are in force'}
              {trial.changes.some((c) => c.kind === 'bound') && ' in the trial'}.{' '}
              <button className="quiet-button" onClick={() => setTyped(null)}>
                Put them back
              </button>
            </p>
          </div>
        )}
        <table className="grid bounds">
          <thead>
            <tr>
              <th />
              {[...boundaries].map((b, i) => (
                <th key={b.grade} className={`num ${i === chosen ? 'fw-semibold' : ''}`}>
                  {b.grade}
                </th>
              ))}
              <th className="num">mean</th>
              <th className="num">{upTo} and above</th>
            </tr>
            <tr>
              <th>begins at</th>
              {boundaries.map((b, i) => (
                <td key={b.grade} className="num" onFocus={() => i < boundaries.length - 1 && setChosen(i)}>
                  <NumberField
                    label={`${b.grade} begins at`}
                    value={typed?.[i]?.from ?? b.from}
                    refused={!!typed && typed[i]!.from !== b.from}
                    disabled={!mayDecide || i === boundaries.length - 1}
                    step={GRAIN}
                    onCommit={(v) => v !== null && put(i, v)}
                  />
                </td>
              ))}
              <td />
              <td />
            </tr>
            <tr className="fw-semibold">
              <th>everyone</th>
              {counts.map((c) => (
                <td key={c.grade} className="num">
                  {c.count} · {share(c.share)}
                  {was(c.grade, c.count)}
                </td>
              ))}
              <td className="num">{fixed(figures.mean)}</td>
              <td className="num">{share(all)}</td>
            </tr>
          </thead>
          <tbody>
            <Rows
              of={sections}
              height={ROW}
              columns={boundaries.length + 3}
              row={(s, row) => {
                const above = aboveShare(s.counts, s.finals)
                return (
                  <tr key={s.id} {...row}>
                    <td>{s.name}</td>
                    {s.counts.map((c) => (
                      <td key={c.grade} className="num">
                        {c.count}
                      </td>
                    ))}
                    <td className="num soft">{fixed(s.mean)}</td>
                    <td className="num share">
                      <svg width="90" height="12" aria-hidden>
                        <rect width={90 * (above ?? 0)} height="12" fill="var(--step-4)" />
                        {all !== null && <line x1={90 * all} x2={90 * all} y1="0" y2="12" stroke="var(--ink)" strokeDasharray="2 1" />}
                      </svg>{' '}
                      <span className="figure">{share(above)}</span>
                    </td>
                  </tr>
                )
              }}
            />
          </tbody>
        </table>
      </main>
      <aside className="close-up" aria-label="Close-up">
        {boundary && (
          <>
            <section>
              <h2>
                {boundary.grade} begins at {fixed(boundary.from)}
                {wasFrom !== undefined && wasFrom !== boundary.from && `, was ${fixed(wasFrom)}`}
              </h2>
              <p aria-live="polite">
                {impact.movers.length === 0
                  ? 'Boundaries as adopted: nobody moves.'
                  : `Against the adopted boundaries ${counted(impact.movers.length, 'grade')} move: ${impact.up} up, ${impact.down} down.`}
              </p>
              {mayDecide && (
                <div className="buttons">
                  <Button size="sm" variant="outline-primary" onClick={() => step(-GRAIN)}>
                    <kbd>←</kbd> {fixed(boundary.from - GRAIN)}
                  </Button>
                  <Button size="sm" variant="outline-primary" onClick={() => step(GRAIN)}>
                    {fixed(boundary.from + GRAIN)} <kbd>→</kbd>
                  </Button>
                  {wasFrom !== undefined && wasFrom !== boundary.from && (
                    <Button size="sm" variant="link" onClick={() => put(chosen, wasFrom)}>
                      Back to {fixed(wasFrom)}
                    </Button>
                  )}
                </div>
              )}
            </section>
            <section>
              <h2>Near this line</h2>
              <p className="soft small">Within {ZONE} percent on either side; what is graded is the percent rounded by the policy.</p>
              <PeopleList
                people={near.map((n) => ({
                  studentId: n.studentId,
                  figures: (
                    <>
                      <b className="num">{fixed(n.percent)}</b>
                      <span className={`num ${n.distance < 0 ? 'soft' : ''}`} style={{ width: 44 }}>
                        {signed(n.distance)}
                      </span>
                    </>
                  ),
                }))}
                empty={`Nobody is within ${ZONE} percent of ${numeral(boundary.from)}.`}
              />
              {exactly.length > 0 && (
                <p className="small mt-2">
                  {counted(exactly.length, 'student')} exactly on it: the limit belongs to {boundary.grade}.
                </p>
              )}
            </section>
            {impact.movers.length > 0 && (
              <section>
                <h2>Who moves</h2>
                <PeopleList
                  people={impact.movers.map((m) => ({
                    studentId: m.studentId,
                    figures: (
                      <span>
                        {m.fromGrade} → <b>{m.toGrade}</b>
                      </span>
                    ),
                  }))}
                  empty=""
                />
              </section>
            )}
          </>
        )}
      </aside>
    </div>
  )
}
