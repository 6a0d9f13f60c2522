import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import type { OpenItem } from '#core/trial'
import { routes } from '#contract'
import { addressOf, call } from '../../api/client'
import { useCourse } from '../../course/course'
import { usePersonLabels } from '../../settings/names'
import { PeopleList } from '../../parts/PeopleList'
import { counted, fixed, shownAt } from '../../parts/format'
import { IssueDifference } from './IssueDifference'
import { Reopen, Sign } from './SignForms'

const SHOWN = 30

/** What is still open, the signature that freezes an issue, and the results to take away. */
export default function Confirm() {
  const course = useCourse()
  const { id, table, adopted, trial, open } = course
  const label = usePersonLabels(table.students)
  const issues = useQuery({ queryKey: ['issues', id], queryFn: () => call(routes.issues, { params: { courseId: id } }) })
  const further = useQuery({
    queryKey: ['further readings', id],
    queryFn: () => call(routes.furtherReadings, { params: { courseId: id } }),
  })
  const awaited = further.data?.filter((r) => r.state !== 'handed in').length ?? 0
  const { items } = open
  const blocking = items.some((i) => i.blocking)
  const without = adopted.students.filter((s) => s.final === null)
  const current = table.head.confirmedIssue
  const head = issues.data?.find((i) => i.number === current)
  const sentence = useSentence()
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>
            {current ? `Issue ${current} is confirmed` : items.length === 0 && awaited === 0 ? 'Nothing is open' : 'What is still open'}
          </h1>
          <span className="soft small">
            {adopted.students.length - without.length} of {adopted.students.length} have a final grade
          </span>
        </div>
        {!current && (
          <table className="grid" style={{ maxWidth: 760 }}>
            <tbody>
              {trial.changes.length > 0 && (
                <tr>
                  <td className="ochre">
                    A trial of {counted(trial.changes.length, 'change')} is open. It is not part of what you sign: adopt or discard it
                    below.
                  </td>
                  <td className="soft small">not in force</td>
                  <td />
                </tr>
              )}
              {items.map((i, n) => (
                <tr key={n}>
                  <td className={i.blocking ? 'fw-semibold' : ''}>
                    {sentence(i)}
                    {i.reopened > 0 && <span className="ochre"> · {i.reopened} of them opened again after they were settled</span>}
                  </td>
                  <td className={`small ${i.blocking ? 'ochre' : 'soft'}`}>{i.blocking ? 'must be cleared first' : 'may stay open'}</td>
                  <td className="text-end">
                    <Link to={wayTo(id, i)}>Go there</Link>
                  </td>
                </tr>
              ))}
              {awaited > 0 && (
                <tr>
                  <td>{counted(awaited, 'reading')} asked for, not in yet: what stands would be open again when one comes</td>
                  <td className="small soft">may stay open</td>
                  <td className="text-end">
                    <Link to={`/courses/${id}/reconcile`}>Go there</Link>
                  </td>
                </tr>
              )}
            </tbody>
          </table>
        )}
        {!current && without.length > 0 && (
          <section className="mt-4" style={{ maxWidth: 760 }}>
            <h2>{counted(without.length, 'student')} without a final grade</h2>
            <PeopleList
              people={without.slice(0, SHOWN).map((s) => ({
                studentId: s.studentId,
                figures: (
                  <span className="soft num">
                    {s.pending} pending · {fixed(s.lowest)} to {fixed(s.highest)}
                  </span>
                ),
              }))}
              empty=""
            />
            {without.length > SHOWN && <p className="soft">and {without.length - SHOWN} more</p>}
          </section>
        )}
        {current && head && (
          <>
            <p>
              Frozen {shownAt(head.at, 'd MMMM yyyy, HH:mm')}. Content hash <code title={head.hash}>{head.hash.slice(0, 16)}…</code>
            </p>
            {table.head.namelessAt !== null && (
              <p className="soft">
                Names left it on {shownAt(table.head.namelessAt, 'd MMMM yyyy')}: numbers stand in their place. The hash is of what was
                signed, names and all, so it no longer answers to what stands here.
              </p>
            )}
            <p className="buttons">
              <a className="btn btn-primary" href={addressOf(routes.resultsCsv, { courseId: id, number: current })} download>
                Results as CSV
              </a>
              <a className="btn btn-outline-primary" href={addressOf(routes.resultsXlsx, { courseId: id, number: current })} download>
                Results as XLSX
              </a>
            </p>
          </>
        )}
        {(issues.data?.length ?? 0) > 1 && <IssueDifference numbers={issues.data!.map((i) => i.number)} label={label} />}
      </main>
      <aside className="close-up" aria-label="Close-up">
        {!current && <Sign blocking={blocking} open={items.reduce((n, i) => n + i.count, 0)} />}
        {current && head && table.head.awayAt === null && <Reopen issue={head} />}
        {(issues.data?.length ?? 0) > 0 && (
          <section>
            <h2>Issues</h2>
            <ul className="people small">
              {issues.data!.map((i) => (
                <li key={i.number} className="d-block">
                  <b>Issue {i.number}</b>
                  {i.reopened && <span className="soft"> reopened: {i.reopened.reason}</span>}
                  <br />
                  {i.signatures.map((s) => (
                    <span key={s.by} className="d-block">
                      {s.by}, {s.role}, {shownAt(s.at, 'd MMM yyyy')}: <span className="soft">{s.statement}</span>
                    </span>
                  ))}
                  <a href={addressOf(routes.resultsCsv, { courseId: id, number: i.number })} download>
                    CSV
                  </a>{' '}
                  <a href={addressOf(routes.resultsXlsx, { courseId: id, number: i.number })} download>
                    XLSX
                  </a>{' '}
                  <span className="soft" title={i.hash}>
                    hash {i.hash.slice(0, 12)}…
                  </span>
                </li>
              ))}
            </ul>
          </section>
        )}
      </aside>
    </div>
  )
}

const wayTo = (courseId: string, item: OpenItem) => `/courses/${courseId}/${item.stop}`

function useSentence(): (item: OpenItem) => string {
  const { table } = useCourse()
  const titleOf = (id: string) =>
    table.assessments.find((a) => a.id === id)?.title ?? table.components.find((c) => c.id === id)?.title ?? id
  return (i) => {
    switch (i.kind) {
      case 'weight':
        return `${i.refs.map(titleOf).join(', ')}: no weight or worth was typed in`
      case 'placement':
        return `${i.refs.map(titleOf).join(', ')}: set for no section`
      case 'unmarked':
        return `${counted(i.count, 'mark')} of ${titleOf(i.refs[0]!)} not in yet`
      case 'held':
        return `${counted(i.count, 'script')} held back`
      case 'readings':
        return `${counted(i.count, 'script')} with fewer readings than wanted`
      case 'clash':
        return `${counted(i.count, 'script')} with a typed mark that a reading does not bear out`
      case 'spread':
        return `${counted(i.count, 'script')} whose readings lie over tolerance`
      case 'unsettled':
        return `${counted(i.count, 'script')} within tolerance, not settled yet`
      case 'boundaries':
        return 'The boundaries are not in order'
    }
  }
}
