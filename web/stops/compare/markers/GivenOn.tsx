import type { Assessment } from '#contract'
import { useJudgedFigures } from '../../../course/course'
import { CarryPeople } from '../../../parts/CarryPeople'
import { PeopleList } from '../../../parts/PeopleList'
import { WorkingOut } from '../../../parts/WorkingOut'
import { counted, fixed, numeral } from '../../../parts/format'

interface Props {
  assessment: Assessment
  marker: { id: string; name: string }
  criterion: { id: string; title: string; max: number }
  onClose: () => void
}

/** Whose scripts a marker’s lean on a criterion is about: what they gave, beside what others gave the same script. */
export function GivenOn({ assessment, marker, criterion, onClose }: Props) {
  const given = useJudgedFigures('givenBy', assessment.id, marker.id, criterion.id)
  if (!given) return <WorkingOut />
  const title = `${assessment.title}: ${criterion.title} as read by ${marker.name}`
  return (
    <section aria-live="polite">
      <h2 className="d-flex justify-content-between align-items-baseline">
        <span>
          {counted(given.length, 'script')}, {criterion.title} of {numeral(criterion.max)}
        </span>
        <button className="quiet-button" onClick={onClose}>
          Close
        </button>
      </h2>
      <CarryPeople title={title} people={given.map((g) => ({ id: g.studentId, value: g.points }))} assessmentId={assessment.id} />
      <PeopleList
        people={given.map((g) => ({
          studentId: g.studentId,
          figures: (
            <>
              <b className="number">{numeral(g.points)}</b>
              <span className="soft number">{g.others === null ? 'read once' : `others ${fixed(g.others)}`}</span>
            </>
          ),
        }))}
        empty={`${marker.name} has judged nobody on it.`}
      />
    </section>
  )
}
