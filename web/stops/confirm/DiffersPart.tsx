import { useQuery } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { Form } from 'react-bootstrap'
import { Link } from 'react-router'
import type { ChangedResult, IssuedDecision, IssuedMark, MarkWriter } from '#core/issues'
import { routes } from '#contract'
import { call } from '../../api/client'
import { problemOf } from '../../api/problem-of'
import { useDecidedCourse } from '../../course/course'
import { KeptSentence } from '../../parts/KeptSentence'
import { usePersonLabels } from '../../settings/names'
import { Rows } from '../../parts/Rows'
import { TakeOut } from '../../parts/take-out/TakeOut'
import { WorkingOut } from '../../parts/WorkingOut'
import { counted, fixed, numeral, shownAt } from '../../parts/format'
import { useIssues } from './useIssues'
import { CloseUp } from '../../parts/CloseUp'

const NOW = 'now'
type Which = number | typeof NOW

/** Which issue; what would be frozen now among them, where `now` says so. */
function IssueSelect({
  label,
  numbers,
  now,
  value,
  onChange,
}: {
  label: string
  numbers: readonly number[]
  now: boolean
  value: Which
  onChange: (which: Which) => void
}) {
  return (
    <Form.Select
      size="sm"
      className="w-auto"
      aria-label={label}
      value={value}
      onChange={(e) => onChange(e.target.value === NOW ? NOW : Number(e.target.value))}
    >
      {now && <option value={NOW}>what would be frozen now</option>}
      {numbers.map((n) => (
        <option key={n} value={n}>
          issue {n}
        </option>
      ))}
    </Form.Select>
  )
}

/** Everything in which two issues differ, or the last one and what would be frozen now, with what brought it about. */
export function DiffersPart({ nav }: { nav: ReactNode }) {
  const { id, table } = useDecidedCourse()
  const label = usePersonLabels(table.students)
  const { all } = useIssues()
  const isOpen = table.head.confirmedIssue === null
  const [pair, setPair] = useState<{ from?: number; to?: Which }>({})
  const numbers = all?.map((i) => i.number) ?? []
  const to = pair.to ?? (isOpen ? NOW : numbers[0])
  const from = pair.from ?? (to === NOW ? numbers[0] : numbers[1])
  const found = useQuery({
    // What would be frozen now changes with every write.
    queryKey: ['issues', id, 'differ', from, to, to === NOW ? table.version : null],
    queryFn: () => call(routes.compareIssues, { params: { courseId: id, number: from!, to: to! } }),
    enabled: from !== undefined && to !== undefined,
    staleTime: Infinity,
  })
  const head = (
    <div className="stop-head">
      <h1>What differs?</h1>
      {nav}
    </div>
  )
  if (all && (from === undefined || to === undefined))
    return (
      <div className="work">
        <main className="table-side">
          {head}
          <p className="empty">
            {all.length === 0
              ? 'Nothing was confirmed yet. Once there is an issue, what the next one changes stands here before it is signed: who moves, by which marks and decisions.'
              : 'There is one issue, and the course is closed. Reopened, what would change stands here before the next one is signed.'}
          </p>
        </main>
        <CloseUp />
      </div>
    )
  const problem = problemOf(found)
  const d = found.data
  const nameOf = (s: ChangedResult) => label(s.studentId) || `${s.name}, ${s.candidate}`
  return (
    <div className="work">
      <main className="table-side">
        {head}
        <div className="d-flex gap-2 align-items-center mb-2">
          <span>From</span>
          <IssueSelect
            label="From issue"
            numbers={numbers}
            now={false}
            value={from!}
            onChange={(n) => n !== NOW && setPair({ ...pair, from: n })}
          />
          <span>to</span>
          <IssueSelect label="To issue" numbers={numbers} now={isOpen} value={to!} onChange={(n) => setPair({ ...pair, to: n })} />
          {d && (
            <span className="ms-auto">
              <TakeOut
                table={() => ({
                  title: `From issue ${d.from} to ${to === NOW ? 'now' : `issue ${d.to}`}`,
                  header: ['candidate', 'name', 'is', 'percent before', 'percent after', 'grade before', 'grade after', 'marks'],
                  rows: d.students.map((s) => [
                    s.candidate,
                    s.name,
                    s.is,
                    s.was?.rounded ?? '',
                    s.now?.rounded ?? '',
                    s.was?.grade ?? '',
                    s.now?.grade ?? '',
                    s.marks.map((m) => `${m.assessment}: ${markWords(m.was)} → ${markWords(m.now)}${byWords(m.by)}`).join('; '),
                  ]),
                })}
              />
            </span>
          )}
        </div>
        {problem && <p className="note bad">{problem}</p>}
        {!d && !problem && <WorkingOut />}
        {d && (
          <>
            <p>
              {d.students.length === 0
                ? 'No result differs, and the same people are in both.'
                : `${counted(d.students.length, 'student')} ${d.students.length === 1 ? 'differs' : 'differ'}: ${d.grades} in grade${whoIs(d.students)}.`}
              {d.also.length > 0 && ` Also different: ${d.also.join(', ')}.`}
            </p>
            {d.students.length > 0 && (
              <table className="grid">
                <thead>
                  <tr>
                    <th>student</th>
                    <th className="number">percent</th>
                    <th>grade</th>
                    <th>by</th>
                  </tr>
                </thead>
                <tbody>
                  <Rows
                    items={d.students}
                    height={31}
                    columns={4}
                    row={(s, row) => (
                      <tr key={s.studentId} {...row}>
                        <td>
                          {s.is === 'gone' ? (
                            <span className="soft">{nameOf(s)}</span>
                          ) : (
                            <Link to={`/courses/${id}/students/${s.studentId}`}>{nameOf(s)}</Link>
                          )}
                        </td>
                        <td className="number">
                          <span className="soft">{fixed(s.was?.rounded ?? null)}</span> → {fixed(s.now?.rounded ?? null)}
                        </td>
                        <td>
                          {s.was?.grade === s.now?.grade ? (
                            <span className="soft">{s.now?.grade ?? 'none'}</span>
                          ) : (
                            <>
                              <span className="soft">{s.was?.grade ?? 'none'}</span> → <b>{s.now?.grade ?? 'none'}</b>
                            </>
                          )}
                        </td>
                        <td className="small soft">
                          {s.is === 'new'
                            ? 'not in the earlier issue'
                            : s.is === 'gone'
                              ? 'no longer on the roll'
                              : s.marks
                                  .map((m) => `${m.assessment} ${markWords(m.was)} → ${markWords(m.now)}${byWords(m.by)}`)
                                  .join(', ') ||
                                (s.was?.section !== s.now?.section
                                  ? `moved to ${s.now?.section}`
                                  : `by what was decided: ${d.also.join(', ')}`)}
                        </td>
                      </tr>
                    )}
                  />
                </tbody>
              </table>
            )}
          </>
        )}
      </main>
      <CloseUp>
        {d && (
          <>
            <Decided title="Decided since" none="Nothing was decided in between." list={d.decided} />
            {d.withdrawn.length > 0 && <Decided title="No longer in force" none="" list={d.withdrawn} />}
          </>
        )}
      </CloseUp>
    </div>
  )
}

function Decided({ title, none, list }: { title: string; none: string; list: readonly IssuedDecision[] }) {
  return (
    <section>
      <h2>{title}</h2>
      {list.length === 0 ? (
        <p className="soft">{none}</p>
      ) : (
        <ul className="people small">
          {list.map((d) => (
            <li key={`${d.at} ${d.summary}`} className="d-block">
              <KeptSentence>{d.summary}</KeptSentence>
              <span className="soft d-block">
                {d.by}, {shownAt(d.at, 'd MMM, HH:mm')}: {d.reason}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

const whoIs = (students: readonly ChangedResult[]): string => {
  const [fresh, gone] = (['new', 'gone'] as const).map((is) => students.filter((s) => s.is === is).length)
  return `${fresh! > 0 ? `, ${fresh} not in the earlier one` : ''}${gone! > 0 ? `, ${gone} no longer on the roll` : ''}`
}

const DID: Record<MarkWriter['did'], string> = {
  typed: 'typed by',
  read: 'read by',
  settled: 'settled by',
  'took back': 'settling taken back by',
}
/** By whom, in brackets; nothing where no mark was written, and it moved by what was decided. */
const byWords = (by: readonly MarkWriter[]): string =>
  by.length === 0 ? '' : ` (${by.map((w) => `${DID[w.did]} ${w.who}, ${shownAt(w.at, 'd MMM')}`).join('; ')})`

const markWords = (m: IssuedMark | null): string => {
  if (!m) return 'not set'
  const mark = m.mark === null ? '–' : numeral(Number(m.mark.toFixed(3)))
  return m.status === 'in' ? mark : m.status === 'late' ? `${mark} late ${m.daysLate}` : m.status
}
