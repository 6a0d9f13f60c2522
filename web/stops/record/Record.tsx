import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { routes, type Decision } from '#contract'
import { call, messageOf } from '../../api/client'
import { problemOf } from '../../api/problem-of'
import { useCourse } from '../../course/course'
import { useKeys } from '../../settings/keys'
import { useDraft } from '../../saving/drafts'
import { useSaved } from '../../saving/saved'
import { counted, shownAt } from '../../parts/format'
import { NotesOn } from '../../parts/NotesOn'
import { WriteProblem, WritesProvider } from '../../saving/writes'
import { Looks } from './Looks'
import { Notes } from './Notes'
import { RollFiles } from './RollFiles'
import { WhatWithdrawalDoes } from './WhatWithdrawalDoes'

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

/** Every decision: who, when, why, what it did; and the way to take it back. */
export default function Record() {
  const { id } = useCourse()
  return (
    <WritesProvider courseId={id}>
      <WholeRecord />
    </WritesProvider>
  )
}

function WholeRecord() {
  const { id, refresh, mayDecide } = useCourse()
  const { saving } = useSaved()
  const record = useQuery({ queryKey: ['record', id], queryFn: () => call(routes.record, { params: { courseId: id } }) })
  const [chosenId, setChosen] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const decisions = record.data ?? []
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
          <span className="soft small">{counted(decisions.filter((d) => !d.withdrawn).length, 'decision')} in force</span>
        </div>
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
                <td className="soft text-nowrap">
                  {d.withdrawn ? 'withdrawn' : d.effect ? `${d.effect.up} up, ${d.effect.down} down` : '–'}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <Notes courseId={id} />
        <RollFiles courseId={id} />
        <Looks courseId={id} />
      </main>
      <aside className="close-up" aria-label="Close-up">
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
                {counted(chosen.effect.percents, 'percent')} and {counted(chosen.effect.grades, 'grade')} changed: {chosen.effect.up} up,{' '}
                {chosen.effect.down} down; {counted(chosen.effect.reversed, 'pair')} changed places.
              </p>
            )}
            {chosen.withdrawn ? (
              <p className="note">
                Withdrawn by {chosen.withdrawn.by}, {shownAt(chosen.withdrawn.at, 'd MMMM, HH:mm')}
                {chosen.withdrawn.reason && `: ${chosen.withdrawn.reason}`}
              </p>
            ) : (
              mayDecide &&
              chosen.kind !== 'confirm' &&
              chosen.kind !== 'reopen' && (
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
      </aside>
    </div>
  )
}
