import type { DeskScript } from '#contract'
import { counted, shownAt } from '../../../parts/format'
import { Attempts } from '../../../parts/script/Attempts'
import styles from './desk.module.css'

/** The work itself, and what is known of how it came. */
export function ScriptShown({ courseId, script }: { courseId: string; script: DeskScript }) {
  const { assessment } = script
  return (
    <section className={styles.deskScript} aria-label="The script" tabIndex={0}>
      <p className="soft small mb-2">
        {script.label}
        {script.status === 'late' && <span className="ochre"> · late by {counted(script.daysLate, 'day')}</span>}
        {script.status === 'held' && <span className="ochre"> · held</span>}
        {script.cameAt && ` · came ${shownAt(script.cameAt, 'd MMM, HH:mm')}`}
        {assessment.notes && ` · ${assessment.notes}`}
      </p>
      <Attempts courseId={courseId} assessmentId={assessment.id} studentId={script.studentId} attempts={script.attempts} />
    </section>
  )
}
