import { Link } from 'react-router'
import { useDecidedCourse } from '../../../course/course'
import { WorkingOut } from '../../../parts/WorkingOut'
import { OutcomeHere } from './OutcomeHere'
import { useCourseOutcomes } from './useStandings'

/** An outcome of the library in this course: followed as soon as students see it, or a judgement counts for it. */
export function FollowOutcome({ outcomeId }: { outcomeId: string }) {
  const { id } = useDecidedCourse()
  const { given, problem, again } = useCourseOutcomes(id)
  if (problem) return <p className="note bad">{problem}</p>
  if (!given) return <WorkingOut />
  const followed = given.outcomes.find((o) => o.id === outcomeId)
  return (
    <>
      <OutcomeHere outcome={followed ?? { id: outcomeId, shown: false, judgements: [] }} judged={given.judged} onChanged={again} />
      <p className="soft small">
        {followed ? (
          <Link to={`/courses/${id}/agree/standings`}>Who stands where on it</Link>
        ) : (
          'Nothing in this course gives evidence of it yet: link criteria of a rubric to it, or let a judgement count.'
        )}
      </p>
    </>
  )
}
