import { useQuery } from '@tanstack/react-query'
import { useRef, useState, type ReactNode } from 'react'
import { Form } from 'react-bootstrap'
import { useLocation, useSearchParams } from 'react-router'
import { routes } from '#contract'
import { call } from '../../../api/client'
import { problemOf } from '../../../api/problem-of'
import { usePlanQuery } from '../../../course/plan'
import { WriteProblem } from '../../../saving/writes'
import { carriedIn } from '../../../parts/carried'
import { counted } from '../../../parts/format'
import { Blindness } from './Blindness'
import { Loads } from './Loads'
import { Remind } from './Remind'
import { ruleFor, ruleForChosen, type Rule } from './rule'
import { ShareControls } from './ShareControls'
import { CloseUp } from '../../../parts/CloseUp'

/** Who reads what of an assessment: shown before it is made, with loads and links. */
export function Sharing({ courseId, decides, nav }: { courseId: string; decides: boolean; nav: ReactNode }) {
  const plan = usePlanQuery(courseId)
  const [search, setSearch] = useSearchParams()
  // Chosen at once: the address follows a moment later, and what is set meanwhile must not be about the one before.
  const [ofId, setOf] = useState(search.get('of'))
  const all = plan.data?.assessments ?? []
  const chosen = all.find((a) => a.id === ofId) ?? all.find((a) => a.readingsWanted > 1) ?? all[0]
  const sharing = useQuery({
    queryKey: ['sharing', courseId, chosen?.id],
    queryFn: () => call(routes.sharing, { params: { courseId, assessmentId: chosen!.id } }),
    enabled: !!chosen,
  })
  const [own, setRule] = useState<Rule | null>(null)
  const latest = useRef(own)
  latest.current = own
  const data = sharing.data?.assessment.id === chosen?.id ? sharing.data : undefined
  const [carried, setCarried] = useState(carriedIn(useLocation()))
  const [trying, setTrying] = useState(carried !== undefined)
  const chosenOnes = carried?.assessmentId === chosen?.id ? carried : undefined
  const rule = data ? (own ?? (chosenOnes ? ruleForChosen(data, chosenOnes.studentIds) : ruleFor(data))) : null
  const tried = useQuery({
    queryKey: ['sharing', courseId, chosen?.id, 'tried', rule],
    queryFn: () => call(routes.trySharing, { params: { courseId, assessmentId: chosen!.id }, body: rule! }),
    enabled: decides && trying && !!rule && (rule.how === 'panels' ? rule.panels.every((p) => p.length > 0) : rule.markers.length > 0),
    placeholderData: (before) => before,
  })
  const problem = problemOf(plan, sharing)
  if (problem) return <div className="empty">{problem}</div>
  if (!plan.data) return <div className="empty">Fetching who reads what…</div>
  const set = (next: Rule) => {
    setRule(next)
    setTrying(true)
  }
  const preview = trying ? (tried.data ?? null) : null
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>Who reads what</h1>
          <Form.Select
            size="sm"
            style={{ maxWidth: 260 }}
            aria-label="Assessment"
            value={chosen?.id ?? ''}
            onChange={(e) => {
              setOf(e.target.value)
              setSearch({ of: e.target.value }, { replace: true })
              setRule(null)
              setCarried(undefined)
              setTrying(false)
            }}
          >
            {all.map((a) => (
              <option key={a.id} value={a.id}>
                {a.title}
              </option>
            ))}
          </Form.Select>
          {nav}
        </div>
        <WriteProblem />
        {!chosen ? (
          <div className="empty">No assessment is set out yet: its reading is shared out here.</div>
        ) : !data || !rule ? (
          <p className="soft">Fetching who reads what…</p>
        ) : (
          <>
            <p className="mb-2">
              {counted(data.scripts, 'script')}, {counted(data.assessment.readingsWanted, 'reading')} wanted of each.{' '}
              {data.short > 0 ? (
                <span className="ochre">{data.short} have fewer readers than that.</span>
              ) : (
                <span className="soft">Every one has its readers.</span>
              )}
              {data.withdrawn > 0 && (
                <span className="soft"> {counted(data.withdrawn, 'reading')} left the piles, since their students withdrew.</span>
              )}
            </p>
            {decides && (
              <ShareControls
                courseId={courseId}
                sharing={data}
                rule={rule}
                tried={preview}
                problem={trying ? problemOf(tried) : null}
                trying={trying}
                onSet={set}
                onTry={() => setTrying(true)}
                onDone={() => {
                  // What was set for the next one, while this one was being written, stays.
                  if (latest.current !== own) return
                  setTrying(false)
                  setCarried(undefined)
                  setRule(null)
                }}
              />
            )}
            <Loads courseId={courseId} sharing={data} rule={rule} tried={preview} decides={decides} onSet={set} />
          </>
        )}
      </main>
      <CloseUp>
        {data && (
          <>
            <section>
              <h2>Links between markers</h2>
              <Links groups={preview?.groups ?? data.groups} />
              {preview && preview.joining.length > 0 && (
                <p className="small">
                  {counted(preview.joining.length, 'further reading')} would join them:{' '}
                  {preview.joining.map((j) => `${j.student} also by ${j.marker}`).join('; ')}.
                </p>
              )}
            </section>
            {decides && <Remind courseId={courseId} sharing={data} />}
            <Blindness courseId={courseId} sharing={data} decides={decides} />
          </>
        )}
      </CloseUp>
    </div>
  )
}

function Links({ groups }: { groups: string[][] }) {
  if (groups.length === 0) return <p className="soft mb-1">Nobody reads anything yet.</p>
  if (groups.length === 1)
    return <p className="soft mb-1">All {groups[0]!.length} share scripts, directly or through others: they can be compared.</p>
  return (
    <>
      <p className="ochre mb-1">{groups.length} groups share no script: markers of different groups cannot be compared fairly.</p>
      <ul className="people small">
        {groups.map((g) => (
          <li key={g.join()}>
            <span>{g.join(', ')}</span>
          </li>
        ))}
      </ul>
    </>
  )
}
