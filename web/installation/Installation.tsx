import { Link, Navigate, useParams } from 'react-router'
import { useSignedIn } from '../session/ahead'
import { PlainFrame } from '../session/PlainFrame'
import { AuditPart } from './AuditPart'
import { CoursesPart } from './CoursesPart'
import { KeepingPart } from './KeepingPart'
import { PeoplePart } from './PeoplePart'
import { SettingsPart } from './SettingsPart'

const PARTS = { people: PeoplePart, courses: CoursesPart, settings: SettingsPart, keeping: KeepingPart, audit: AuditPart }
type Part = keyof typeof PARTS

/** What whoever administers looks after: people, courses as such, and what happened. Never marks. */
export default function Installation() {
  const { admin } = useSignedIn()
  const { part = 'people' } = useParams()
  if (!(part in PARTS)) return <Navigate to="/installation" replace />
  const Shown = PARTS[part as Part]
  const nav = (
    <nav className="words-links" aria-label="Parts of the installation">
      {Object.keys(PARTS).map((p) => (
        <Link key={p} to={`/installation/${p}`} aria-current={p === part ? 'page' : undefined}>
          {p}
        </Link>
      ))}
    </nav>
  )
  return (
    <PlainFrame title="The installation" nav={admin ? nav : undefined}>
      {admin ? (
        <Shown />
      ) : (
        <main className="empty">
          <h1>Not here for you</h1>
          <p className="mt-2">
            This is for whoever administers the installation. <Link to="/">Your courses</Link>
          </p>
        </main>
      )}
    </PlainFrame>
  )
}
