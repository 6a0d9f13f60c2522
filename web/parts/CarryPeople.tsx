import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { useNavigate } from 'react-router'
import { useDecidedCourse } from '../course/course'
import { AskForReadings } from './AskForReadings'
import type { Carried } from './carried'
import { takeOutCsv } from './take-out/table-out'

interface Props {
  /** What these people are: “Six below the pass mark in Heliotrope”. */
  title: string
  people: readonly { id: string; value: number }[]
  /** The assessment it is about; null for what is more than one. */
  assessmentId: string | null
}

/** Where a list of people can be carried, and what it takes to be there. */
const WAYS = [
  { words: 'Mark', to: 'mark/sheet', decides: false, whole: false },
  { words: 'Reconcile', to: 'reconcile', decides: false, whole: true },
  { words: 'sharing out', to: 'mark/sharing-out', decides: true, whole: false },
]

/** Where a list of people can be carried: to another stop, to further readings, or out as a file. */
export function CarryPeople({ title, people, assessmentId }: Props) {
  const { id, table, mayDecide } = useDecidedCourse()
  const navigate = useNavigate()
  const [asking, setAsking] = useState(false)
  const [asked, setAsked] = useState<number | null>(null)
  if (people.length === 0) return null
  const assessment = table.assessments.find((a) => a.id === assessmentId)
  const student = new Map(table.students.map((s) => [s.id, s]))
  const section = new Map(table.sections.map((s) => [s.id, s.name]))
  return (
    <div className="d-flex flex-wrap gap-2 mt-2">
      <span className="soft small align-self-center">Carry to</span>
      {WAYS.map(
        (way) =>
          (assessment || way.whole) &&
          (mayDecide || !way.decides) && (
            <Button
              key={way.to}
              size="sm"
              variant="link"
              className="px-0"
              aria-label={`Carry to ${way.words}`}
              onClick={() =>
                void navigate(`/courses/${id}/${way.to}${assessment ? `?of=${assessment.id}` : ''}`, {
                  state: {
                    carried: { title, assessmentId: assessment?.id ?? null, studentIds: people.map((p) => p.id) } satisfies Carried,
                  },
                })
              }
            >
              {way.words}
            </Button>
          ),
      )}
      {assessment && mayDecide && (
        <Button size="sm" variant="link" className="px-0" onClick={() => setAsking(true)}>
          Ask for readings
        </Button>
      )}
      <Button
        size="sm"
        variant="link"
        className="px-0"
        onClick={() =>
          void takeOutCsv({
            title,
            header: ['candidate', 'name', 'section', assessment?.title ?? 'value'],
            rows: people.map((p) => {
              const s = student.get(p.id)
              return [s?.candidate ?? p.id, s?.name ?? '', section.get(s?.sectionId ?? '') ?? '', Number(p.value.toFixed(3))]
            }),
          })
        }
      >
        Take out as CSV
      </Button>
      {asked !== null && (
        <span className="soft small align-self-center" role="status">
          {asked} asked for
        </span>
      )}
      {asking && assessment && (
        <AskForReadings
          wanted={people.map((p) => ({ assessmentId: assessment.id, studentId: p.id, markerId: null }))}
          because={title}
          onClose={() => setAsking(false)}
          onAsked={setAsked}
        />
      )}
    </div>
  )
}
