import { useMemo } from 'react'
import { Button } from 'react-bootstrap'
import { currentSection } from '#core/roll'
import type { Plan } from '#contract'
import { usePersonLabels } from '../../../settings/names'
import { useRollQuery } from '../../../course/plan'
import { useTrial } from '../../../course/trial'
import { FindStudent } from '../../../parts/FindStudent'
import type { PlacementEdits, Spot } from './edits'

const NOBODY: never[] = []

/** Students left out of an assessment: tried first, adopted with a reason, taken back in as easily. */
export function LeftOut({ plan, edits, at, single }: { plan: Plan; edits: PlacementEdits; at: Spot; single: boolean }) {
  const { changes } = useTrial()
  const courseId = plan.head.id
  const roll = useRollQuery(courseId)
  const students = roll.data?.students ?? NOBODY
  const label = usePersonLabels(students)
  const assessment = plan.assessments[at.a]
  const section = plan.sections[at.s]
  const out = useMemo(() => {
    const ids = new Set(plan.leftOut[assessment?.id ?? ''] ?? [])
    for (const c of changes)
      if (c.kind === 'exclude' && c.assessmentId === assessment?.id) {
        if (c.out) ids.add(c.studentId)
        else ids.delete(c.studentId)
      }
    return ids
  }, [plan.leftOut, changes, assessment?.id])
  const others = useMemo(() => students.filter((s) => currentSection(s.stays) !== null && !out.has(s.id)), [students, out])
  if (!assessment) return null
  const tried = new Set(changes.flatMap((c) => (c.kind === 'exclude' && c.assessmentId === assessment.id ? [c.studentId] : [])))
  const inSection = section ? students.filter((s) => currentSection(s.stays) === section.id).map((s) => s.id) : []
  return (
    <section>
      <h2>Left out of {assessment.title}</h2>
      {out.size === 0 ? (
        <p className="soft mb-1">Nobody: it applies to all for whom it is set.</p>
      ) : (
        <ul className="people">
          {[...out].slice(0, 40).map((id) => (
            <li key={id}>
              <span>
                {label(id)} {tried.has(id) && <span className="soft small">trying</span>}
              </span>
              {edits.mayEdit && (
                <button
                  className="quiet-button"
                  onClick={() => edits.exclude(assessment.id, [id], false, `take ${label(id)} back into ${assessment.title}`)}
                >
                  back in
                </button>
              )}
            </li>
          ))}
          {out.size > 40 && <li className="soft">and {out.size - 40} more</li>}
        </ul>
      )}
      {edits.mayEdit && (
        <>
          <p className="soft small mb-0">Leave somebody out:</p>
          <FindStudent
            students={roll.data ? others : null}
            label={label}
            says={`Leave a student out of ${assessment.title}`}
            onPick={(id) => edits.exclude(assessment.id, [id], true, `leave ${label(id)} out of ${assessment.title}`)}
          />
          {single && section && inSection.some((id) => !out.has(id)) && (
            <Button
              size="sm"
              variant="link"
              className="px-0"
              onClick={() =>
                edits.exclude(
                  assessment.id,
                  inSection.filter((id) => !out.has(id)),
                  true,
                  `leave ${section.name} out of ${assessment.title}`,
                )
              }
            >
              Leave all of {section.name} out
            </Button>
          )}
          <p className="soft small mb-0">It is a trial: the strip below says who moves; adopting asks why.</p>
        </>
      )}
    </section>
  )
}
