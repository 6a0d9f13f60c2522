import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { routes, type Assessment, type DeliveryRow, type SortDelivery, type Student } from '#contract'
import { addressOf } from '../../../api/client'
import { useDraft } from '../../../saving/drafts'
import { ask } from '../../../saving/ask'
import { useWrites } from '../../../saving/writes'
import { FindStudent } from '../../../parts/FindStudent'
import { shownAt } from '../../../parts/format'

interface Props {
  courseId: string
  delivery: DeliveryRow
  assessments: Assessment[]
  students: readonly Pick<Student, 'id' | 'name' | 'candidate'>[]
  label: (studentId: string) => string
  decides: boolean
}

/** Where it is now, as what would put it there again. */
function asItIs(d: DeliveryRow): SortDelivery {
  if (d.state === 'placed') return { to: 'script', studentId: d.studentId!, assessmentId: d.assessmentId! }
  return d.state === 'set aside' ? { to: 'set aside', why: d.why ?? '' } : { to: 'waiting' }
}

/** One piece of work: what the box said of it, and where it belongs. */
export function SortCloseUp({ courseId, delivery: d, assessments, students, label, decides }: Props) {
  const { write } = useWrites()
  const said = {
    student: students.find((s) => s.candidate === d.candidate)?.id ?? null,
    assessment: assessments.find((a) => a.title.toLowerCase() === d.assessment.toLowerCase())?.id ?? '',
  }
  const [studentId, setStudent] = useState(d.studentId ?? said.student)
  const [assessmentId, setAssessment] = useState(d.assessmentId ?? said.assessment)
  const [why, setWhy] = useDraft(`set aside ${d.id}`)
  const sort = (body: SortDelivery, what: string) =>
    write(what, ask(routes.sortDelivery, { params: { courseId, deliveryId: d.id }, body }), () =>
      ask(routes.sortDelivery, { params: { courseId, deliveryId: d.id }, body: asItIs(d) }),
    )
  return (
    <section>
      <h2 className="text-break">{d.fileName}</h2>
      <p className="mb-1">
        Came {shownAt(d.cameAt, 'EEEE d MMMM, HH:mm')}
        <span className="soft"> · {d.kind === 'other' ? 'neither text nor PDF' : d.kind === 'pdf' ? 'PDF' : 'text'}</span>
      </p>
      <p>
        <a href={addressOf(routes.deliveryFile, { courseId, deliveryId: d.id })} download>
          Take it out to look at it
        </a>
      </p>
      {d.why && <p className={d.state === 'waiting' ? 'note' : 'soft'}>{d.why}</p>}
      {d.sortedBy && <p className="soft small">Sorted by {d.sortedBy}.</p>}
      {!decides ? null : d.state === 'placed' ? (
        <>
          <Button size="sm" variant="outline-primary" onClick={() => void sort({ to: 'waiting' }, `take ${d.fileName} back`)}>
            Take it back to be sorted
          </Button>
          <p className="soft small mt-2">Possible as long as nobody has read it.</p>
        </>
      ) : (
        <>
          {d.kind !== 'other' && (
            <div className="mb-3">
              <h3>It belongs to</h3>
              <div className="mb-1">
                {studentId ? (
                  <>
                    {label(studentId)}{' '}
                    <button className="quiet-button small" onClick={() => setStudent(null)}>
                      somebody else
                    </button>
                  </>
                ) : (
                  <FindStudent students={students} label={label} says="Whose it is" onPick={setStudent} />
                )}
              </div>
              <Form.Select size="sm" aria-label="For which assessment" value={assessmentId} onChange={(e) => setAssessment(e.target.value)}>
                <option value="">for which assessment?</option>
                {assessments.map((a) => (
                  <option key={a.id} value={a.id}>
                    {a.title}
                  </option>
                ))}
              </Form.Select>
              <Button
                size="sm"
                className="mt-2"
                disabled={!studentId || assessmentId === ''}
                onClick={() => void sort({ to: 'script', studentId: studentId!, assessmentId }, `place ${d.fileName}`)}
              >
                Place it there
              </Button>
            </div>
          )}
          {d.state === 'waiting' && (
            <Form
              onSubmit={(e) => {
                e.preventDefault()
                void sort({ to: 'set aside', why }, `set ${d.fileName} aside`)
              }}
            >
              <Form.Label htmlFor="set-aside" className="soft small mb-0">
                Or set it aside, because
              </Form.Label>
              <Form.Control id="set-aside" size="sm" value={why} maxLength={500} onChange={(e) => setWhy(e.target.value)} />
              <Button type="submit" size="sm" variant="outline-primary" className="mt-2">
                Set it aside
              </Button>
            </Form>
          )}
        </>
      )}
    </section>
  )
}
