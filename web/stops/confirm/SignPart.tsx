import { useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { Link } from 'react-router'
import type { OpenItem } from '#core/trial'
import { routes } from '#contract'
import { addressOf, call } from '../../api/client'
import { useCourse } from '../../course/course'
import { PeopleList } from '../../parts/PeopleList'
import { counted, fixed, shownAt } from '../../parts/format'
import { IssueList } from './IssueList'
import { Objections } from './Objections'
import { Reopen, SecondSignature, Sign } from './SignForms'
import { useSentence } from './sentence'
import { useIssues } from './useIssues'
import { WhoSigns } from './WhoSigns'
import { CloseUp } from '../../parts/CloseUp'

const SHOWN = 30
const BACK = { back: { to: 'confirm', words: 'Back to Confirm' } }

/** What becomes of those whom an open thing is about, if it stays open. */
const THEN: Partial<Record<OpenItem['kind'], string>> = {
  unmarked: 'may stay open: they are pending in the issue, without a grade',
  held: 'may stay open: they are pending in the issue, without a grade',
  readings: 'may stay open: what was read counts as it is',
  placement: 'may stay open: it counts for nobody',
}

/** What is still open, each with its way there; and the signatures that freeze the results. */
export function SignPart({ nav }: { nav: ReactNode }) {
  const { id, table, adopted, trial, open } = useCourse()
  const { latest, inForce, all } = useIssues()
  const further = useQuery({
    queryKey: ['further readings', id],
    queryFn: () => call(routes.furtherReadings, { params: { courseId: id } }),
  })
  const awaited = further.data?.filter((r) => r.state !== 'handed in').length ?? 0
  const { items } = open
  const blocking = items.some((i) => i.blocking)
  const without = adopted.students.filter((s) => s.final === null)
  const current = table.head.confirmedIssue
  const sentence = useSentence()
  const way = (to: string) => (
    <Link to={`/courses/${id}/${to}`} state={BACK}>
      Go there
    </Link>
  )
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>
            {current
              ? latest?.inForce
                ? `Issue ${current} is in force`
                : `Issue ${current} is frozen`
              : items.length === 0 && awaited === 0
                ? without.length === 0
                  ? 'Nothing is open'
                  : 'Nothing blocks signing'
                : 'What is still open'}
          </h1>
          {nav}
        </div>
        <p className="soft small">
          {adopted.students.length - without.length} of {adopted.students.length} have a final grade
          {!current && inForce && ` · issue ${inForce.number} stays in force until the next one is signed`}
        </p>
        {!current && (
          <table className="grid" style={{ maxWidth: 860 }}>
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
                  <td className={`small ${i.blocking ? 'ochre' : 'soft'}`}>
                    {i.blocking ? 'must be cleared first' : (THEN[i.kind] ?? 'may stay open')}
                  </td>
                  <td className="text-end text-nowrap">{way(i.stop)}</td>
                </tr>
              ))}
              {awaited > 0 && (
                <tr>
                  <td>{counted(awaited, 'reading')} asked for, not in yet: what stands would be open again when one comes</td>
                  <td className="small soft">may stay open: what stands is what counts</td>
                  <td className="text-end text-nowrap">{way('reconcile')}</td>
                </tr>
              )}
            </tbody>
          </table>
        )}
        {!current && without.length > 0 && (
          <section className="mt-4" style={{ maxWidth: 860 }}>
            <h2>{counted(without.length, 'student')} without a final grade</h2>
            <p className="soft small">
              They would be listed in the issue as pending, and are not handed over until a later issue has their grade.
            </p>
            <PeopleList
              people={without.slice(0, SHOWN).map((s) => ({
                studentId: s.studentId,
                figures: (
                  <span className="soft number">
                    {s.pending} pending · {fixed(s.lowest)} to {fixed(s.highest)}
                  </span>
                ),
              }))}
              empty=""
            />
            {without.length > SHOWN && <p className="soft">and {without.length - SHOWN} more</p>}
          </section>
        )}
        {current && latest && (
          <>
            <p>
              {latest.inForce
                ? 'Signed by all who must: it counts, and can be released and handed over.'
                : latest.waitsFor.length > 0
                  ? `It is frozen, and does not count yet: ${latest.waitsFor.map((r) => (r === 'lead' ? 'a lead' : 'an external')).join(' and ')} has to sign.`
                  : 'Somebody objects to it: while that stands it does not count.'}
            </p>
            <p>
              Frozen {shownAt(latest.at, 'd MMMM yyyy, HH:mm')}. Content hash <code title={latest.hash}>{latest.hash.slice(0, 16)}…</code>
            </p>
            {table.head.namelessAt !== null && (
              <p className="soft">
                Names left it on {shownAt(table.head.namelessAt, 'd MMMM yyyy')}: numbers stand in their place. The hash is of what was
                signed, names and all, so it no longer answers to what stands here.
              </p>
            )}
            <table className="grid" style={{ maxWidth: 460 }}>
              <tbody>
                {latest.counts.map((c) => (
                  <tr key={c.grade}>
                    <td>{c.grade}</td>
                    <td className="number soft">from {latest.boundaries.find((b) => b.grade === c.grade)?.from}</td>
                    <td className="number fw-semibold">{c.count}</td>
                  </tr>
                ))}
                {latest.ungraded > 0 && (
                  <tr>
                    <td className="soft">pending, without a grade</td>
                    <td />
                    <td className="number">{latest.ungraded}</td>
                  </tr>
                )}
              </tbody>
            </table>
            <p className="buttons mt-3">
              <a className="btn btn-primary" href={addressOf(routes.resultsXlsx, { courseId: id, number: current })} download>
                Results as XLSX
              </a>
              <a className="btn btn-outline-primary" href={addressOf(routes.resultsCsv, { courseId: id, number: current })} download>
                CSV
              </a>
              <a className="btn btn-outline-primary" href={addressOf(routes.resultsJson, { courseId: id, number: current })} download>
                JSON
              </a>
              <a className="btn btn-outline-primary" href={addressOf(routes.oneRoster, { courseId: id, number: current })} download>
                OneRoster
              </a>
              <span className="soft small">The hash is that of the JSON file, byte for byte.</span>
            </p>
          </>
        )}
      </main>
      <CloseUp>
        {!current && (
          <>
            <WhoSigns />
            <Sign blocking={blocking} open={items.reduce((n, i) => n + i.count, 0)} />
          </>
        )}
        {current && latest && table.head.awayAt === null && (
          <>
            <SecondSignature issue={latest} />
            <Objections issue={latest} />
            <Reopen issue={latest} />
          </>
        )}
        {all && all.length > 0 && <IssueList issues={all} />}
      </CloseUp>
    </div>
  )
}
