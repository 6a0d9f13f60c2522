import { Suspense, useState } from 'react'
import { routes, type ScriptDetail } from '#contract'
import { addressOf } from '../../api/client'
import { later } from '../../shell/code'
import { shownAt } from '../format'

// The viewer is large, and most work is text or on paper.
const PdfView = later(() => import('../pdf/PdfView'))

const came = (at: string | null) => (at ? shownAt(at, 'd MMM, HH:mm') : 'at first')

interface Props {
  courseId: string
  assessmentId: string
  /** As the server calls the student here. */
  studentId: string
  attempts: ScriptDetail['attempts']
}

/** The work itself: the latest attempt, and those before it to look back at. */
export function Attempts({ courseId, assessmentId, studentId, attempts }: Props) {
  const [chosen, setChosen] = useState<number | null>(null)
  const shown = attempts.find((a) => a.number === chosen) ?? attempts.at(-1)
  return (
    <>
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
            address={addressOf(routes.attemptFile, { courseId, assessmentId, studentId, attempt: shown.number })}
          />
        </Suspense>
      )}
    </>
  )
}
