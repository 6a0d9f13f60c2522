import { useMemo } from 'react'
import { Button } from 'react-bootstrap'
import { uncommonSections, type Course, type SectionWeights, type UncommonSection } from '#core/grades'
import { firstMeeting } from '#core/roll'
import { routes, type Plan } from '#contract'
import { useTrial } from '../../../course/trial'
import { fixed } from '../../../parts/format'
import { ask } from '../../../saving/ask'
import { useWrites } from '../../../saving/writes'

const SHOWN = 8

/** Sections whose plan does not carry what the others' does, and what would make it. */
export function UncommonSections({ decided, course, weights }: { decided: Plan; course: Course; weights: SectionWeights[] }) {
  const { courseId, mayDecide } = useTrial()
  const { write } = useWrites()
  const uncommon = useMemo(() => uncommonSections(course, weights), [course, weights])
  if (uncommon.length === 0) return null
  const title = (id: string) => decided.assessments.find((a) => a.id === id)?.title ?? ''
  const section = (id: string) => decided.sections.find((s) => s.id === id)!

  /** Sets what a section lacks, at its first meeting on or after the first day it is due elsewhere. */
  const setFor = (u: UncommonSection) => {
    const placements = u.lacks.map((assessmentId) => {
      const at = decided.assessments.findIndex((a) => a.id === assessmentId)
      const elsewhere = decided.placements.filter(([a]) => a === at)
      const first = elsewhere.flatMap(([, , due]) => due ?? []).sort()[0]
      return {
        assessmentId,
        sectionId: u.sectionId,
        placed: true,
        due: first ? firstMeeting(section(u.sectionId), first) : null,
        release: decided.releases[elsewhere[0]?.[3] ?? 0] ?? { kind: 'confirmed' as const },
      }
    })
    void write(
      `set ${u.lacks.map(title).join(', ')} for ${section(u.sectionId).name}`,
      ask(routes.setPlacements, { params: { courseId }, body: { placements } }),
      ({ before }) => ask(routes.setPlacements, { params: { courseId }, body: { placements: before } }),
    )
  }
  return (
    <section>
      <h2>Sections that do not carry the same</h2>
      {uncommon.slice(0, SHOWN).map((u) => {
        const changed = u.differs[0]
        return (
          <div key={u.sectionId} className="mb-2">
            <p className="mb-1">
              <b>{section(u.sectionId).name}</b>{' '}
              {[
                u.lacks.length > 0 ? `has no ${u.lacks.map(title).join(', ')}` : '',
                u.alone.length > 0 ? `alone has ${u.alone.map(title).join(', ')}` : '',
              ]
                .filter(Boolean)
                .join(' and ')}
              {changed &&
                `: ${title(changed.assessmentId)} carries ${fixed(changed.share * 100)}% there and ${fixed(changed.elsewhere * 100)}% elsewhere`}
              {u.differs.length > 1 && `, and ${u.differs.length - 1} others differ`}.
            </p>
            {u.lacks.length > 0 && mayDecide && (
              <Button size="sm" variant="outline-primary" onClick={() => setFor(u)}>
                Set {u.lacks.length === 1 ? 'it' : 'them'} for {section(u.sectionId).name}
              </Button>
            )}
          </div>
        )
      })}
      {uncommon.length > SHOWN && <p className="soft">and {uncommon.length - SHOWN} more sections</p>}
    </section>
  )
}
