import { useDeferredValue, useMemo } from 'react'
import { useNavigate, useParams } from 'react-router'
import { problemOf } from '../../api/problem-of'
import { useKeys } from '../../settings/keys'
import { usePlanQuery } from '../../course/plan'
import { useTrial } from '../../course/trial'
import { PartsNav } from '../../parts/PartsNav'
import { CoursePart } from './course/CoursePart'
import { PeopleHere } from './people/PeopleHere'
import { Placements } from './placements/Placements'
import { PlanPart } from './plan/PlanPart'
import { RollPart } from './roll/RollPart'
import { PARTS, type Part } from '../../parts/set-out-parts'
import { openFindings } from '../../parts/plan-findings'

/** The first stop: who is taught, what counts, when it is due, who does what in it, and what it is called and graded in. */
export default function SetOut() {
  const { part } = useParams()
  const { courseId } = useTrial()
  const navigate = useNavigate()
  const plan = usePlanQuery(courseId)
  const shown: Part = PARTS.find((p) => p === part) ?? 'plan'
  useKeys(
    PARTS.map((p, i) => ({
      key: String(i + 1),
      does: `show the ${p}`,
      run: () => void navigate(`/courses/${courseId}/set-out/${p}`),
    })),
  )
  const settled = useDeferredValue(plan.data, undefined)
  const open = useMemo(() => (settled ? openFindings(settled) : {}), [settled])
  const problem = problemOf(plan)
  if (problem) return <div className="empty">{problem}</div>
  if (!plan.data) return <div className="empty">Fetching the plan…</div>
  const nav = <PartsNav keyed stop="setting out" base={`/courses/${courseId}/set-out`} parts={PARTS} shown={shown} open={open} />
  if (shown === 'roll') return <RollPart plan={plan.data} nav={nav} />
  if (shown === 'placements') return <Placements plan={plan.data} nav={nav} />
  if (shown === 'people') return <PeopleHere plan={plan.data} nav={nav} />
  if (shown === 'course') return <CoursePart decided={plan.data} nav={nav} />
  return <PlanPart decided={plan.data} nav={nav} />
}
