import { useState, type ReactNode } from 'react'
import { Link } from 'react-router'
import type { Question } from '#contract'
import { AskForReadings } from '../../parts/AskForReadings'
import { QuestionsPart } from '../../parts/questions/QuestionsPart'
import { useDecidedCourse } from '../../course/course'

interface Props {
  parts: ReactNode
  /** Whether a script is among those that readings settle. */
  inQueue: (scriptId: string) => boolean
  onSettle: (question: Question) => void
}

/** What students asked, as a reason to look again: at the work, by a further reading, or by settling it anew. */
export function AskedPart({ parts, inQueue, onSettle }: Props) {
  const { id, mayDecide } = useDecidedCourse()
  const [wanted, setWanted] = useState<Question | null>(null)
  return (
    <>
      <QuestionsPart
        courseId={id}
        answers={mayDecide}
        nav={parts}
        more={(q) => (
          <section aria-label="Looking again">
            <h2>Look again</h2>
            <div className="d-flex flex-wrap gap-2">
              <Link className="btn btn-sm btn-outline-primary" to={`/courses/${id}/students/${q.studentId}`}>
                Why this mark
              </Link>
              {mayDecide && (
                <button className="btn btn-sm btn-outline-primary" onClick={() => setWanted(q)}>
                  Ask for a further reading
                </button>
              )}
              {inQueue(q.scriptId) && (
                <button className="btn btn-sm btn-outline-primary" onClick={() => onSettle(q)}>
                  Its readings in the queue
                </button>
              )}
            </div>
            <p className="soft small mt-2">A mark changes by a decision alone: a reading, a settling, or what is typed in the sheet.</p>
          </section>
        )}
      />
      {wanted && (
        <AskForReadings
          wanted={[{ assessmentId: wanted.assessmentId, studentId: wanted.studentId, markerId: null }]}
          because={`Its student asks about ${wanted.about ?? 'the mark'}`}
          onClose={() => setWanted(null)}
        />
      )}
    </>
  )
}
