import type { ReactNode } from 'react'
import { useSearchParams } from 'react-router'
import { problemOf } from '../../../api/problem-of'
import { Desk } from './Desk'
import { Piles } from './Piles'
import { usePile, usePiles } from './queries'
import { useResend } from './resend'

/** A marker's desk: the piles, and from there one script after the other. */
export function DeskPart({ courseId, nav }: { courseId: string; nav: ReactNode }) {
  const [search, setSearch] = useSearchParams()
  const piles = usePiles(courseId)
  const chosen = piles.data?.find((p) => p.assessmentId === search.get('of') && p.gate === 'open') ?? null
  const pile = usePile(courseId, chosen?.assessmentId ?? null)
  const openId = search.get('script')
  const unsent = useResend(courseId, chosen && openId ? { assessmentId: chosen.assessmentId, studentId: openId } : null)
  const problem = problemOf(piles, pile)
  if (problem) return <div className="empty">{problem}</div>
  if (!piles.data) return <div className="empty">Fetching your piles…</div>
  if (chosen && pile.data && pile.data.length > 0) {
    const current =
      pile.data.find((s) => s.studentId === openId) ??
      pile.data.find((s) => s.state === 'draft') ??
      pile.data.find((s) => s.state === 'untouched') ??
      pile.data[0]!
    return (
      <Desk
        courseId={courseId}
        pile={chosen}
        scripts={pile.data}
        current={current}
        onGo={(id) => setSearch({ of: chosen.assessmentId, script: id }, { replace: true })}
        onLeave={() => setSearch({})}
      />
    )
  }
  return (
    <div className="work alone">
      <main className="table-side" style={{ maxWidth: 900 }}>
        <div className="stop-head">
          <h1>What you read</h1>
          {nav}
        </div>
        <Piles courseId={courseId} piles={piles.data} unsent={unsent} />
      </main>
    </div>
  )
}
