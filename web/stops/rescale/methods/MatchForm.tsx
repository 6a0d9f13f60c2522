import { Form } from 'react-bootstrap'
import type { OfKind, Like } from '#core/rescale'
import { useDecidedCourse, useYears } from '../../../course/course'
import { NumberField } from '../../../parts/NumberField'
import { useEarlierCourses } from '../../../parts/useEarlierCourses'
import { fixed, signed } from '../../../parts/format'
import type { RescaleFigures } from '../figures'
import type { Rescaling } from '../useRescaling'
import { matched } from './matched'
import styles from '../rescale.module.css'

interface Props {
  method: OfKind<'matchMeanSd' | 'matchDistribution'>
  figures: RescaleFigures
  rescaling: Rescaling
}

/** Which group is matched, what its figures are, and how sure it is that the two differ at all. */
export function MatchForm({ method, figures, rescaling }: Props) {
  const { table } = useDecidedCourse()
  const earlier = useEarlierCourses()
  const ids = earlier.map((c) => c.id)
  const { assessmentId } = figures.subject
  const counting = useYears(ids, assessmentId)
  const marked = useYears(counting?.rescaled ? ids : [], assessmentId, true)
  const { chosen, put } = rescaling
  // Both can be chosen where they differ.
  const past = [counting, marked].flatMap((all) =>
    all?.subject === assessmentId
      ? all.years.slice(1).map((y) => ({ ...y, id: `${y.courseId}${all.asMarked ? ' as marked' : ''}`, asMarked: all.asMarked }))
      : [],
  )
  const value =
    'sectionId' in method.like
      ? method.like.sectionId
      : 'courseId' in method.like
        ? `${method.like.courseId}${method.like.asMarked ? ' as marked' : ''}`
        : method.like.group
  const choose = (to: string) => {
    if (!chosen) return
    const year = past.find((y) => y.id === to)
    const like: Like =
      to === 'others' || to === 'typed'
        ? { group: to }
        : year
          ? { group: 'year', courseId: year.courseId, term: year.term, ...(year.asMarked ? { asMarked: true } : {}) }
          : { group: 'section', sectionId: to }
    const marks = year ? year.people.map((p) => p.value) : rescaling.likeMarks(like)
    put({ ...chosen, method: matched(method, like, figures.before, marks) }, 'match another group')
  }
  const all = chosen?.sectionIds === null
  return (
    <div className={styles.form}>
      <label>
        match{' '}
        <Form.Select
          className="d-inline-block w-auto"
          size="sm"
          aria-label="Which group to match"
          value={value}
          onChange={(e) => choose(e.target.value)}
        >
          <option value="typed">{method.kind === 'matchMeanSd' ? 'typed figures' : 'none yet: choose a group'}</option>
          <option value="others" disabled={all}>
            all the others{all ? ': first choose for which sections' : ''}
          </option>
          {table.sections.map((s) => (
            <option key={s.id} value={s.id} disabled={chosen?.sectionIds?.includes(s.id)}>
              {s.name}
            </option>
          ))}
          {past.map((y) => (
            <option key={y.id} value={y.id}>
              {y.title}, {y.term}
              {y.asMarked && ', as marked'}
            </option>
          ))}
        </Form.Select>
      </label>
      {method.kind === 'matchMeanSd' && (
        <span>
          mean {fixed(method.from?.mean)} →{' '}
          <NumberField
            label="Mean to match"
            value={Number(method.to.mean.toFixed(3))}
            min={0}
            max={figures.subject.outOf * 2}
            step={0.5}
            onCommit={(mean) => mean !== null && rescaling.setMethod({ ...method, to: { ...method.to, mean }, like: { group: 'typed' } })}
          />
          , sd {fixed(method.from?.sd)} →{' '}
          <NumberField
            label="Spread to match"
            value={Number(method.to.sd.toFixed(3))}
            min={0}
            max={figures.subject.outOf}
            step={0.5}
            onCommit={(sd) => sd !== null && rescaling.setMethod({ ...method, to: { ...method.to, sd }, like: { group: 'typed' } })}
          />
        </span>
      )}
      <Apart figures={figures} />
    </div>
  )
}

/** How the two groups differ, and whether that is more than chance. */
function Apart({ figures: { apart } }: { figures: RescaleFigures }) {
  if (!apart || apart.difference === null) return null
  if (!apart.interval)
    return <span className="small soft">They are {signed(apart.difference)} apart; too few to say how sure that is.</span>
  const [low, high] = apart.interval
  const chance = low <= 0 && high >= 0
  return (
    <span className={`small ${chance ? 'ochre' : 'soft'}`} role="status">
      {fixed(Math.abs(apart.difference))} {apart.difference < 0 ? 'below' : 'above'} that group (95% {signed(low)} to {signed(high)})
      {chance ? ': within chance. There may be nothing to match.' : '.'}
    </span>
  )
}
