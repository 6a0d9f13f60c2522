import { Suspense, useState } from 'react'
import { routes, type DeskScript } from '#contract'
import { addressOf } from '../../../api/client'
import { later } from '../../../shell/code'
import { counted, shownAt } from '../../../parts/format'

// The viewer is large, and most work is text or on paper.
const PdfView = later(() => import('../../../parts/pdf/PdfView'))

const came = (at: string | null) => (at ? shownAt(at, 'd MMM, HH:mm') : 'at first')

/** The work itself: the latest attempt, and those before it to look back at. */
export function ScriptShown({ courseId, script }: { courseId: string; script: DeskScript }) {
  const { attempts, assessment } = script
  const [chosen, setChosen] = useState<number | null>(null)
  const shown = attempts.find((a) => a.number === chosen) ?? attempts.at(-1)
  return (
    <section className="desk-script" aria-label="The script" tabIndex={0}>
      <p className="soft small mb-2">
        {script.label}
        {script.status === 'late' && <span className="ochre"> · late by {counted(script.daysLate, 'day')}</span>}
        {script.status === 'held' && <span className="ochre"> · held</span>}
        {script.cameAt && ` · came ${shownAt(script.cameAt, 'd MMM, HH:mm')}`}
        {assessment.notes && ` · ${assessment.notes}`}
      </p>
      {attempts.length > 1 && (
        <div className="words-choice mb-2" role="group" aria-label="Attempt">
          {attempts.map((a) => (
            <button key={a.number} aria-pressed={a === shown} title={`came ${came(a.cameAt)}`} onClick={() => setChosen(a.number)}>
              attempt {a.number}
              {a === attempts.at(-1) && ', the latest'}
            </button>
          ))}
        </div>
      )}
      {!shown ? (
        <p className="soft">This work is on paper or elsewhere: there is nothing to show here. Read it there, and judge it here.</p>
      ) : shown.kind === 'text' ? (
        <article className="script-text" dir="auto">
          {shown.text}
        </article>
      ) : (
        <Suspense fallback={<p className="soft">Opening the PDF…</p>}>
          <PdfView
            key={shown.number}
            title={`attempt ${shown.number}`}
            address={addressOf(routes.attemptFile, {
              courseId,
              assessmentId: assessment.id,
              studentId: script.studentId,
              attempt: shown.number,
            })}
          />
        </Suspense>
      )}
    </section>
  )
}
