import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { movesInWords } from '#core/rescale'
import { routes, type Decision } from '#contract'
import { call, messageOf } from '../../api/client'
import { problemOf } from '../../api/problem-of'
import { useDecidedCourse } from '../../course/course'
import { useKeptSentence } from '../../parts/KeptSentence'
import { useKeys } from '../../settings/keys'
import { usePersonLabels } from '../../settings/names'
import { useDraft } from '../../saving/drafts'
import { useSaved } from '../../saving/saved'
import { counted, shownAt } from '../../parts/format'
import { NotesOn } from '../../parts/NotesOn'
import { TakeOut } from '../../parts/take-out/TakeOut'
import { WriteProblem, WritesProvider } from '../../saving/writes'
import { Looks } from './Looks'
import { Notes } from './Notes'
import { RollFiles } from './RollFiles'
import { found, NOTHING_ASKED, studentsIn } from './find'
import { Touched, useScriptParts } from './Touched'
import { WhatWithdrawalDoes } from './WhatWithdrawalDoes'
import { CloseUp } from '../../parts/CloseUp'

const KIND: Record<Decision['kind'], string> = {
  reconcile: 'Reconcile',
  rescale: 'Rescale',
  bound: 'Bound',
  plan: 'plan',
  weights: 'Weights',
  several: 'Several',
  confirm: 'Confirm',
  reopen: 'Reopen',
}

const NONE: Decision[] = []

/** Every decision: who, when, why, what it did; and the way to take it back. */
export default function Record() {
  const { id } = useDecidedCourse()
  return (
    <WritesProvider courseId={id}>
      <WholeRecord />
    </WritesProvider>
  )
}

function WholeRecord() {
  const { id, table, refresh, mayDecide } = useDecidedCourse()
  const { saving } = useSaved()
  const record = useQuery({ queryKey: ['record', id], queryFn: () => call(routes.record, { params: { courseId: id } }) })
  const [chosenId, setChosen] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const label = usePersonLabels(table.students)
  const partsOf = useScriptParts()
  const [asked, setAsked] = useState(NOTHING_ASKED)
  const said = useKeptSentence()
  const all = useMemo(() => record.data?.map((d) => ({ ...d, summary: said(d.summary) })) ?? NONE, [record.data, said])
  const decisions = useMemo(
    () => found(all, asked, (d) => studentsIn(d, (script) => partsOf(script)?.studentId ?? '').map(label)),
    [all, asked, partsOf, label],
  )
  const people = useMemo(() => [...new Set(all.flatMap((d) => [d.by, d.withdrawn?.by ?? d.by]))].sort(), [all])
  const at = Math.max(
    0,
    decisions.findIndex((d) => d.id === chosenId),
  )
  const chosen = decisions[at]
  const [reason, setReason, dropReason] = useDraft(`withdraw ${chosen?.id ?? ''}`)
  useKeys([
    { key: 'ArrowDown', does: 'next decision', run: () => setChosen(decisions[Math.min(decisions.length - 1, at + 1)]?.id ?? null) },
    { key: 'ArrowUp', does: 'decision before', run: () => setChosen(decisions[Math.max(0, at - 1)]?.id ?? null) },
  ])
  const withdraw = async (d: Decision) => {
    setProblem(null)
    try {
      await saving(call(routes.withdraw, { params: { courseId: id, decisionId: d.id }, body: { reason } }))
      dropReason()
      await refresh()
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  const unread = problemOf(record)
  if (unread) return <div className="empty">{unread}</div>
  if (record.data?.length === 0)
    return (
      <div className="work alone">
        <main className="table-side">
          <div className="stop-head">
            <h1>The record</h1>
          </div>
          <div className="empty">
            No decision yet. What is adopted at Reconcile, Rescale, Bound or in the plan is recorded here, with who, when and why, and can
            be withdrawn.
          </div>
          <RollFiles courseId={id} />
          <Looks courseId={id} />
        </main>
      </div>
    )
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>The record</h1>
          <span className="soft small">
            {counted(all.filter((d) => !d.withdrawn).length, 'decision')} in force
            {decisions.length < all.length && ` · ${decisions.length} shown`}
          </span>
          <div className="at-end">
            <Only
              label="Where"
              all="everywhere"
              choices={Object.entries(KIND)}
              value={asked.where}
              onChange={(where) => setAsked({ ...asked, where })}
            />
            <Only
              label="Who"
              all="everyone"
              choices={people.map((p) => [p, p])}
              value={asked.who}
              onChange={(who) => setAsked({ ...asked, who })}
            />
            <Form.Control
              size="sm"
              type="search"
              style={{ width: 190 }}
              aria-label="A student, a day or a word"
              placeholder="a student, a day, a word"
              value={asked.words}
              onChange={(e) => setAsked({ ...asked, words: e.target.value })}
            />
            <TakeOut
              table={() => ({
                title: 'The record',
                header: ['when', 'where', 'what', 'why', 'who', 'grades changed', 'withdrawn by', 'withdrawn because'],
                rows: decisions.map((d) => [
                  d.at,
                  KIND[d.kind],
                  d.summary,
                  d.reason,
                  d.by,
                  d.effect?.grades ?? '',
                  d.withdrawn?.by ?? '',
                  d.withdrawn?.reason ?? '',
                ]),
              })}
            />
          </div>
        </div>
        {decisions.length === 0 && <p className="soft">No decision answers to that.</p>}
        <WriteProblem />
        <table className="grid">
          <thead>
            <tr>
              <th>when</th>
              <th>where</th>
              <th>what</th>
              <th>who</th>
              <th>effect</th>
            </tr>
          </thead>
          <tbody>
            {decisions.map((d) => (
              <tr key={d.id} className="pick" aria-selected={d === chosen} onClick={() => setChosen(d.id)}>
                <td className="soft text-nowrap">{shownAt(d.at, 'd MMM, HH:mm')}</td>
                <td>{KIND[d.kind]}</td>
                <td className={d.withdrawn ? 'text-decoration-line-through soft' : 'fw-semibold'}>
                  <button
                    className="row-name border-0 bg-transparent p-0 text-start fw-semibold text-reset"
                    onClick={() => setChosen(d.id)}
                  >
                    {d.summary.length > 110 ? `${d.summary.slice(0, 110)}…` : d.summary}
                  </button>
                </td>
                <td className="soft text-nowrap">{d.by}</td>
                <td className="soft text-nowrap">{d.withdrawn ? 'withdrawn' : d.effect ? movesInWords(d.effect) || 'no grade' : '–'}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <Notes courseId={id} />
        <RollFiles courseId={id} />
        <Looks courseId={id} />
      </main>
      <CloseUp>
        {chosen && (
          <section>
            <h2>{KIND[chosen.kind]}</h2>
            <p>{chosen.summary}</p>
            <p>
              <span className="soft">why</span> {chosen.reason || <span className="soft">no reason given</span>}
            </p>
            <p className="soft">
              {chosen.by}, {shownAt(chosen.at, 'd MMMM yyyy, HH:mm')}
            </p>
            {chosen.effect && (
              <p>
                {counted(chosen.effect.percents, 'percent')} and {counted(chosen.effect.grades, 'grade')} changed
                {chosen.effect.grades > 0 && `: ${movesInWords(chosen.effect)}`}; {counted(chosen.effect.reversed, 'pair')} changed places.
              </p>
            )}
            <Touched key={chosen.id} decision={chosen} />
            {chosen.withdrawn ? (
              <p className="note">
                Withdrawn by {chosen.withdrawn.by}, {shownAt(chosen.withdrawn.at, 'd MMMM, HH:mm')}
                {chosen.withdrawn.reason && `: ${chosen.withdrawn.reason}`}
              </p>
            ) : (
              mayDecide &&
              // What is taken back elsewhere decides nothing by itself.
              chosen.changes.length > 0 && (
                <Form
                  onSubmit={(e) => {
                    e.preventDefault()
                    void withdraw(chosen)
                  }}
                >
                  <Form.Label htmlFor="withdraw-reason" className="soft small mb-0">
                    Withdraw it, because
                  </Form.Label>
                  <Form.Control id="withdraw-reason" value={reason} maxLength={2000} onChange={(e) => setReason(e.target.value)} />
                  <Button type="submit" variant="outline-primary" size="sm" className="mt-2" disabled={reason.trim() === ''}>
                    Withdraw
                  </Button>
                  <WhatWithdrawalDoes decisionId={chosen.id} />
                </Form>
              )
            )}
            {problem && (
              <p className="note bad" role="alert">
                {problem}
              </p>
            )}
          </section>
        )}
        {chosen && <NotesOn about={{ kind: 'decision', id: chosen.id, assessmentId: null }} />}
      </CloseUp>
    </div>
  )
}

interface OnlyProps {
  label: string
  /** What is said while nothing is narrowed. */
  all: string
  choices: readonly (readonly [value: string, words: string])[]
  value: string
  onChange: (value: string) => void
}

/** Narrows a list to one of what it holds. */
function Only({ label, all, choices, value, onChange }: OnlyProps) {
  return (
    <Form.Select size="sm" className="w-auto" aria-label={label} value={value} onChange={(e) => onChange(e.target.value)}>
      <option value="">{all}</option>
      {choices.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </Form.Select>
  )
}
