import { Link } from 'react-router'
import { PARTS, type Part } from '../../parts/set-out-parts'

/** Roll, plan and placements, with what is to be looked at in each. */
export function PartsNav({ courseId, shown, open }: { courseId: string; shown: Part; open: Partial<Record<Part, number>> }) {
  return (
    <nav className="end words-links" aria-label="Parts of setting out">
      {PARTS.map((p, i) => (
        <Link key={p} to={`/courses/${courseId}/set-out/${p}`} aria-current={p === shown ? 'page' : undefined} title={`${p} (${i + 1})`}>
          {p}
          {(open[p] ?? 0) > 0 && <b className="ochre"> {open[p]}</b>}
        </Link>
      ))}
    </nav>
  )
}
