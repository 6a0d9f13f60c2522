import { useEffect, type ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import { useSearchParams } from 'react-router'
import type { PileScript } from '#contract'
import { problemOf } from '../../../api/problem-of'
import { Desk } from './Desk'
import { Piles } from './Piles'
import { usePile, usePiles } from './queries'
import { useResend } from './resend'

const NONE: PileScript[] = []
/** The script that a pile is gone on with: one that is begun, else one that is untouched. */
const nextIn = (pile: readonly PileScript[]): PileScript | undefined =>
  pile.find((s) => s.state === 'draft') ?? pile.find((s) => s.state === 'untouched') ?? pile[0]

/** A marker's desk: the piles, and from there one script after the other. */
export function DeskPart({ courseId, nav }: { courseId: string; nav: ReactNode }) {
  const [search, setSearch] = useSearchParams()
  const piles = usePiles(courseId)
  const chosen = piles.data?.find((p) => p.assessmentId === search.get('of') && p.gate === 'open') ?? null
  const pile = usePile(courseId, chosen?.assessmentId ?? null)
  const openId = search.get('script')
  const unsent = useResend(courseId, chosen && openId ? { assessmentId: chosen.assessmentId, studentId: openId } : null)
  const current = openId === null ? nextIn(pile.data ?? NONE) : pile.data?.find((s) => s.studentId === openId)
  const of = chosen?.assessmentId
  const begins = openId === null && current ? current.studentId : null
  // The one that it begins with stays the one in hand, whatever becomes of the pile.
  useEffect(() => {
    if (of && begins !== null) setSearch({ of, script: begins }, { replace: true })
  }, [of, begins, setSearch])
  const problem = problemOf(piles, pile)
  if (problem) return <div className="empty">{problem}</div>
  if (!piles.data) return <div className="empty">Fetching your piles…</div>
  if (chosen && pile.data && pile.data.length > 0) {
    if (!current)
      return (
        <div className="empty">
          <p role="status">The script that you were reading is not in your pile any more. What you typed on it is kept.</p>
          <Button size="sm" onClick={() => setSearch({ of: chosen.assessmentId }, { replace: true })}>
            Go on with the next one
          </Button>
        </div>
      )
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
