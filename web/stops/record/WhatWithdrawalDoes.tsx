import { movesInWords, movesOf } from '#core/rescale'
import { useWithdrawal } from '../../course/course'
import { PeopleList } from '../../parts/PeopleList'
import { counted } from '../../parts/format'

/** What withdrawing a decision would do, said before it is done. */
export function WhatWithdrawalDoes({ decisionId }: { decisionId: string }) {
  const found = useWithdrawal(decisionId)
  if (!found || found.decisionId !== decisionId) return <p className="soft small mt-2">Working out what that would do…</p>
  return (
    <div className="small mt-2" role="status">
      {found.problem ? (
        <span className="brick">It can’t be withdrawn as things stand: {found.problem}</span>
      ) : found.change === null ? (
        <span className="soft">It changed scripts or readings: what that would do can be told once it is done.</span>
      ) : found.change.percents === 0 && found.change.movers.length === 0 ? (
        <span className="ochre">No grade and no percent would change: later decisions say the same, or it changed none.</span>
      ) : (
        <>
          {counted(found.change.percents, 'percent')} and {counted(found.change.movers.length, 'grade')} would change
          {found.change.movers.length > 0 && `: ${movesInWords(movesOf(found.change))}`}. What was decided before or after it stays.
          {found.change.movers.length > 0 && (
            <PeopleList
              people={found.change.movers.map((m) => ({
                studentId: m.studentId,
                figures: (
                  <span>
                    <b>{m.fromGrade ?? 'none'}</b> <span className="soft">with it, without it</span> {m.toGrade ?? 'none'}
                  </span>
                ),
              }))}
              empty=""
            />
          )}
        </>
      )}
    </div>
  )
}
