import { Form } from 'react-bootstrap'
import { routes, type Plan, type StandardUse } from '#contract'
import { call } from '../../api/client'
import { useWrites } from '../../saving/writes'
import { numeral } from '../../parts/format'
import { WordsField } from './WordsField'
import styles from './agree.module.css'

const OPTIONS: [Exclude<keyof StandardUse, 'noteOn'>, string][] = [
  ['studentsBefore', 'students see it before the work is due'],
  ['remarks', 'students see remarks with their mark'],
  ['criterionComments', 'a comment for each criterion'],
  ['ranges', 'any point inside a range'],
  ['hidePoints', 'points hidden while marking'],
  ['hideWords', 'words of the levels hidden while marking'],
]

/** How one assessment uses its standard. */
export function UseOptions({
  courseId,
  assessment,
  points,
}: {
  courseId: string
  assessment: Plan['assessments'][number]
  /** What the standard comes to; null where it is a scale. */
  points: number | null
}) {
  const { write } = useWrites()
  // What stands is asked for when its turn comes: two ticks in a row must not take each other back.
  const send = async (patch: Partial<StandardUse>) => {
    const { assessments } = await call(routes.plan, { params: { courseId } })
    const { version, use } = assessments.find((a) => a.id === assessment.id)!
    return call(routes.editAssessment, { params: { courseId, assessmentId: assessment.id }, body: { version, use: { ...use, ...patch } } })
  }
  return (
    <div className={styles.useOptions} role="group" aria-label={`How ${assessment.title} uses it`}>
      {!!points && (
        <p className="soft small mb-1">
          {points === assessment.outOf
            ? `${numeral(points)} points, as it is marked out of.`
            : `${numeral(points)} points make ${numeral(assessment.outOf)}: a point counts ${numeral(assessment.outOf / points)}.`}
        </p>
      )}
      {OPTIONS.map(([key, words]) => (
        <Form.Check
          key={key}
          id={`use-${assessment.id}-${key}`}
          className="small"
          label={words}
          checked={assessment.use[key]}
          onChange={(e) => {
            // Read now: by the time the write has its turn the box shows what stands again.
            const on = e.target.checked
            void write(
              `${words}: ${on ? 'on' : 'off'}`,
              () => send({ [key]: on }),
              () => send({ [key]: assessment.use[key] }),
            )
          }}
        />
      ))}
      {assessment.marking === 'judgement' && (
        <label className="small d-block">
          noted on beside the judgement, a line each
          <WordsField
            label="What is noted on beside the judgement"
            placeholder="a line each; such a note never sets the mark"
            value={assessment.use.noteOn.join('\n')}
            onCommit={(text) => {
              const noteOn = text
                .split('\n')
                .map((line) => line.trim())
                .filter(Boolean)
              void write(
                'what is noted on',
                () => send({ noteOn }),
                () => send({ noteOn: assessment.use.noteOn }),
              )
            }}
          />
        </label>
      )}
    </div>
  )
}
