import { openWork, type Course } from '#core/grades'
import { fixed, share } from '../parts/format'
import { gradeAt, ME, sharesOf, standingIn } from './own-course'
import { SpanRuler } from './SpanRuler'
import styles from './student.module.css'

interface Props {
  course: Course
  onNeed: () => void
}

/** Where the course stands for a student by what is back, and between what it can still end. */
export default function SoFar({ course, onNeed }: Props) {
  const { soFar, lowest, highest } = standingIn(course)
  if (soFar === null || lowest === null || highest === null)
    return <p className="soft">Nothing that counts is back yet. Where you stand will be here once something is.</p>
  const open = new Set(openWork(course, ME))
  const shares = sharesOf(course)
  const back = [...shares].reduce((sum, [id, s]) => (open.has(id) ? sum : sum + s), 0)
  const { grades, place } = gradeAt(course, soFar)
  const next = grades.slice(0, Math.max(0, place)).findLast((g) => g.from <= highest) ?? grades[place]
  return (
    <section aria-label="The course so far" className={styles.soFar}>
      <h2>You stand at {fixed(soFar)} so far</h2>
      {open.size > 0 ? (
        <p className="soft">
          {share(back)} of the course is back. With what is open it ends between <b>{fixed(lowest, 0)}</b> and <b>{fixed(highest, 0)}</b>.
        </p>
      ) : (
        <p className="soft">All of the course is back. The result comes once it is confirmed.</p>
      )}
      <SpanRuler boundaries={course.boundaries} lowest={lowest} highest={highest} soFar={soFar} />
      {open.size > 0 && next && (
        <button className="btn btn-primary btn-sm" id="what-if" onClick={onNeed}>
          What would I need for {next.grade}?
        </button>
      )}
    </section>
  )
}
