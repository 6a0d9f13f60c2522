import type { OwnWork } from '#contract'
import { numeral } from '../parts/format'
import { Judge } from '../parts/judge/Judge'
import { StandardInWords } from '../parts/standard/StandardInWords'

const SEES_ALL = { hidePoints: false, hideWords: false }

/** What a student's work will be judged by, and scripts of earlier students that show it. */
export function HowJudged({ work: { assessment, standard, levels, exemplars } }: { work: OwnWork['work'][number] }) {
  return (
    <section aria-label={`How ${assessment} is judged`}>
      {!levels && standard && (
        <>
          <h2>How {assessment} is judged</h2>
          <StandardInWords standard={standard} />
        </>
      )}
      {exemplars.map((x) => (
        <details key={x.label} className="shown-exemplar">
          <summary>
            {x.label}: this one reached <b>{numeral(x.mark)}</b> of {numeral(x.outOf)}
            {x.why && ', and why'}
          </summary>
          <article className="script-text" dir="auto">
            {x.text}
          </article>
          {x.why && (
            <>
              <blockquote className="reasons" dir="auto">
                {x.why.note}
              </blockquote>
              {standard && <Judge standard={standard} outOf={x.outOf} use={SEES_ALL} judged={{ ...x.why, mark: x.mark }} />}
            </>
          )}
        </details>
      ))}
    </section>
  )
}
