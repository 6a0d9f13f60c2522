import { useEffect, type ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import { Link, useSearchParams } from 'react-router'
import type { Pile, PileScript } from '#contract'
import { counted } from '../../../parts/format'
import { problemOf } from '../../../api/problem-of'
import { Desk } from './Desk'
import { Piles } from './Piles'
import { usePile, usePiles } from './queries'
import { useResend } from './resend'

const NONE: PileScript[] = []
/** The script that a pile is gone on with: one that is begun, else one that is untouched. */
const nextIn = (pile: readonly PileScript[]): PileScript | undefined =>
  pile.find((s) => s.state === 'draft') ?? pile.find((s) => s.state === 'untouched') ?? pile[0]

/** Marking of a pile is held, perhaps since a moment ago: why, what becomes of what was typed, and what can be done. */
function Held({ courseId, pile, onLeave }: { courseId: string; pile: Pile; onLeave: () => void }) {
  return (
    <div className="empty">
      <h1>{pile.title} is held</h1>
      <p role="status">
        {pile.unreadExemplars > 0
          ? `Read ${counted(pile.unreadExemplars, 'exemplar')} first: marking opens for you once you have.`
          : 'The lead holds your marking of it for now, and will talk with you about it. You cannot open it yourself; ask the lead.'}{' '}
        What you have typed on its scripts is kept in this browser and is sent when marking is open again.
      </p>
      <div className="d-flex gap-3 align-items-center">
        {pile.unreadExemplars > 0 && <Link to={`/courses/${courseId}/agree/exemplars?of=${pile.assessmentId}`}>Read the exemplars</Link>}
        <Button size="sm" variant="outline-primary" onClick={onLeave}>
          Your piles
        </Button>
      </div>
    </div>
  )
}

/** A marker's desk: the piles, and from there one script after the other. */
export function DeskPart({ courseId, nav }: { courseId: string; nav: ReactNode }) {
  const [search, setSearch] = useSearchParams()
  const piles = usePiles(courseId)
  const chosen = piles.data?.find((p) => p.assessmentId === search.get('of') && p.gate === 'open') ?? null
  const pile = usePile(courseId, chosen?.assessmentId ?? null)
  const openId = search.get('script')
  const held = piles.data?.find((p) => p.assessmentId === search.get('of') && p.gate === 'held') ?? null
  const unsent = useResend(courseId, chosen && openId ? { assessmentId: chosen.assessmentId, studentId: openId } : null, piles.data)
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
  if (held) return <Held courseId={courseId} pile={held} onLeave={() => setSearch({})} />
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
