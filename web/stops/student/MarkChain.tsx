import { useQuery } from '@tanstack/react-query'
import type { StandingMark } from '#core/trial'
import { routes } from '#contract'
import { call } from '../../api/client'
import { useDecidedCourse } from '../../course/course'
import { ReadingShape } from '../../parts/ReadingsLine'
import { numeral, pointsGiven } from '../../parts/format'
import { Said } from '../../parts/Said'
import styles from './student.module.css'

const SOURCE = {
  agreed: 'agreed between readings',
  ruled: 'settled by the assessment’s standing rule, its readings being within tolerance',
  entered: 'typed in or brought in from a file',
  reading: 'the reading',
  open: 'readings not settled yet',
  clash: 'the typed mark and a reading disagree: to be settled at Reconcile',
  none: 'no mark yet',
}

/** One mark opened down to its readings and every step made on it. */
export function MarkChain({ standing, assessmentId }: { standing: StandingMark | undefined; assessmentId: string }) {
  const { id, table } = useDecidedCourse()
  const assessment = table.assessments.find((a) => a.id === assessmentId)!
  const library = useQuery({
    queryKey: ['library', id],
    queryFn: () => call(routes.library, { params: { courseId: id } }),
    staleTime: Infinity,
  })
  const detail = useQuery({
    queryKey: ['script', id, standing?.scriptId],
    queryFn: () => call(routes.script, { params: { courseId: id, scriptId: standing!.scriptId } }),
    enabled: !!standing,
  })
  const criteria =
    [...(library.data?.rubrics ?? []), ...(library.data?.schemes ?? [])].find((s) => s.id === assessment.standardId)?.criteria ?? []
  return (
    <>
      <h2>{assessment.title}</h2>
      {!standing ? (
        <p className="soft">Nothing is recorded for this assessment.</p>
      ) : (
        <>
          <ol className={styles.steps}>
            {(detail.data?.readings ?? []).map((r, i) => (
              <li key={r.markerId}>
                <svg width="14" height="14" aria-hidden>
                  <ReadingShape nth={i} cx={7} cy={7} />
                </svg>{' '}
                {r.marker}: <b>{numeral(r.mark)}</b>
                {r.judgement && ` (${r.judgement})`}
                {Object.keys(r.picks).length > 0 && (
                  <span className="soft small d-block">
                    {criteria
                      .flatMap((c) =>
                        r.picks[c.id] === undefined
                          ? []
                          : `${c.title} ${pointsGiven({ penalty: 'penalty' in c && c.penalty }, r.picks[c.id])}`,
                      )
                      .join(' · ')}
                  </span>
                )}
                {r.comment && <span className="serif fw-normal small d-block">{r.comment}</span>}
              </li>
            ))}
            <li>
              As marked: <b>{numeral(standing.plain)}</b> of {numeral(assessment.outOf)}, {SOURCE[standing.source]}
            </li>
            {standing.steps.map((s, i) => (
              <li key={s.adjustmentId}>
                Adjustment {i + 1}: <b>{numeral(s.mark)}</b>
              </li>
            ))}
            {standing.steps.length > 0 && (
              <li>
                What counts: <b>{numeral(standing.mark)}</b>
              </li>
            )}
          </ol>
          <Said words={detail.data?.words ?? []} outOf={assessment.outOf} />
        </>
      )}
    </>
  )
}
