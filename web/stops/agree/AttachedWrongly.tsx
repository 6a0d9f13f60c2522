import { attachmentFindings } from '#core/scales'
import type { Library } from '#contract'
import { usePlanQuery } from '../../course/plan'
import { useWrites } from '../../saving/writes'
import { attachTo } from './attach-to'
import styles from './agree.module.css'

/** Assessments of this course that are alike and not marked alike, each with what would mend it. */
export function AttachedWrongly({ courseId, library }: { courseId: string; library: Library }) {
  const plan = usePlanQuery(courseId)
  const { write } = useWrites()
  if (!plan.data) return null
  const { assessments, placements, sections } = plan.data
  const standards = new Map([...library.rubrics, ...library.schemes, ...library.scales].map((s) => [s.id, s]))
  const placed = assessments.map((_, at) => placements.filter(([a]) => a === at).map(([, s]) => sections[s]!.id))
  const findings = attachmentFindings(
    assessments.map((a, i) => ({ ...a, assessmentId: a.id, sectionIds: placed[i]! })),
    standards,
  )
  if (findings.length === 0) return null
  const attach = (assessmentId: string, standardId: string, before: string | null) => {
    void write(
      'attach the same',
      () => attachTo(courseId, assessmentId, standardId),
      () => attachTo(courseId, assessmentId, before),
    )
  }
  return (
    <ul className={`findings ${styles.inline}`} aria-label="Attached wrongly">
      {findings.map((f) => (
        <li key={`${f.kind} ${f.assessmentId}`}>
          <span className="finding">{f.message}</span>{' '}
          <button
            className="quiet-button"
            onClick={() => attach(f.assessmentId, f.standardId, assessments.find((a) => a.id === f.assessmentId)!.standardId)}
          >
            use the same
          </button>
        </li>
      ))}
    </ul>
  )
}
