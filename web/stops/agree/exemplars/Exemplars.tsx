import { useRef, useState, type ReactNode } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useSearchParams } from 'react-router'
import { useRole } from '../../../session/useRole'
import { sightOf } from '#core/roles'
import { type ExemplarBody } from '#contract'
import { problemOf } from '../../../api/problem-of'
import { useKeys } from '../../../settings/keys'
import { WriteProblem } from '../../../saving/writes'
import { counted, numeral } from '../../../parts/format'
import { ExemplarDesk } from './ExemplarDesk'
import { ExemplarForm } from './ExemplarForm'
import { MarkersTable } from './MarkersTable'
import { OwnTuning } from './OwnTuning'
import { useExemplars, useTuning } from './queries'
import { KeyCap } from '../../../settings/KeyCap'
import { CloseUp } from '../../../parts/CloseUp'

/** Scripts that everybody reads before the first real one: the lead agrees marks on them, markers see how far off they are. */
export function Exemplars({ courseId, nav }: { courseId: string; nav: ReactNode }) {
  const tuning = useTuning(courseId)
  const role = useRole(courseId)
  const [search, setSearch] = useSearchParams()
  // Chosen at once: the address follows a moment later, and what is typed meanwhile must not be about the one before.
  const [ofId, setOf] = useState(search.get('of'))
  const all = tuning.data ?? []
  const assessment = all.find((a) => a.assessmentId === ofId) ?? all.find((a) => a.unread > 0) ?? all.find((a) => a.exemplars > 0) ?? all[0]
  const { data, error } = useExemplars(courseId, assessment?.assessmentId ?? null)
  const [chosenId, setChosen] = useState<string | null>(null)
  // Leaving the form must not lose what was typed in it.
  const left = useRef(new Map<string, ExemplarBody>())
  const [editing, setEditing] = useState<'new' | 'chosen' | null>(null)
  const [markerId, setMarker] = useState<string | null>(null)
  const lead = sightOf(role).decides
  const exemplars = data?.exemplars ?? []
  const unread = exemplars.filter((x) => x.agreed === null)
  const chosen = exemplars.find((x) => x.id === chosenId) ?? unread[0] ?? exemplars[0]
  /** The one that was gone on to from the one before. */
  const [nextId, setNext] = useState<string | null>(null)
  const goOn = (id: string) => {
    setNext(id)
    setChosen(id)
  }
  const step = (by: number) => {
    const at = exemplars.findIndex((x) => x === chosen)
    setChosen(exemplars[Math.max(0, Math.min(exemplars.length - 1, at + by))]?.id ?? null)
  }
  useKeys([
    { key: 'j', does: 'next exemplar', run: () => step(1) },
    { key: 'k', does: 'exemplar before', run: () => step(-1) },
    ...(lead ? [{ key: 'x', does: 'add an exemplar', run: () => setEditing('new') }] : []),
  ])
  const problem = problemOf(tuning, { data, error })
  if (problem) return <div className="empty">{problem}</div>
  if (!tuning.data) return <div className="empty">Fetching the exemplars…</div>

  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>Exemplars</h1>
          {all.length > 0 && (
            <Form.Select
              size="sm"
              style={{ maxWidth: 280 }}
              aria-label="Exemplars of"
              value={assessment?.assessmentId ?? ''}
              onChange={(e) => {
                setOf(e.target.value)
                setSearch({ of: e.target.value }, { replace: true })
                setEditing(null)
                setChosen(null)
                setMarker(null)
              }}
            >
              {all.map((a) => (
                <option key={a.assessmentId} value={a.assessmentId}>
                  {a.title}
                  {a.exemplars > 0 && `: ${a.exemplars}`}
                  {a.unread > 0 && `, ${a.unread} unread`}
                </option>
              ))}
            </Form.Select>
          )}
          {nav}
        </div>
        <WriteProblem />
        {!data ? (
          <p className="soft">{assessment ? 'Fetching the exemplars…' : 'No assessment is set out yet.'}</p>
        ) : editing ? (
          <ExemplarForm
            // What others add meanwhile must not take away what is being typed.
            key={`${data.assessment.id} ${editing === 'new' ? 'new' : chosen?.id}`}
            courseId={courseId}
            exemplars={data}
            exemplar={editing === 'chosen' ? (chosen ?? null) : null}
            left={left.current}
            onDone={(id) => {
              setEditing(null)
              if (id) setChosen(id)
            }}
          />
        ) : (
          <>
            <div className="exemplar-tabs">
              {exemplars.map((x) => (
                <button key={x.id} aria-pressed={x === chosen} onClick={() => setChosen(x.id)}>
                  {x.label}
                  {x.agreed === null && <span className="ochre small"> unread</span>}
                </button>
              ))}
              {lead && (
                <Button size="sm" variant="outline-primary" onClick={() => setEditing('new')}>
                  New exemplar <KeyCap cap="x" />
                </Button>
              )}
            </div>
            {chosen ? (
              <ExemplarDesk
                key={chosen.id}
                courseId={courseId}
                exemplars={data}
                exemplar={chosen}
                reading={data.markers?.find((m) => m.id === markerId) ?? null}
                onRead={() => setChosen(chosen.id)}
                begins={chosen.id === nextId}
                onNext={unread.some((x) => x !== chosen) ? () => goOn(unread.find((x) => x !== chosen)!.id) : null}
                onEdit={lead ? () => setEditing('chosen') : null}
                marks={sightOf(role).reads}
              />
            ) : (
              <div className="empty">
                {lead
                  ? 'Choose two or three scripts that show what a mark means here, agree on each, and say why. Markers read them before they begin; until they have, they cannot type a mark of this assessment.'
                  : 'There is nothing to read first for this assessment: you may begin.'}
              </div>
            )}
          </>
        )}
      </main>
      <CloseUp>
        {data?.markers ? (
          <MarkersTable courseId={courseId} exemplars={data} markers={data.markers} chosen={markerId} onChoose={setMarker} lead={lead} />
        ) : (
          data && <OwnTuning tuning={data} />
        )}
        {data?.markers && exemplars.length > 0 && (
          <p className="soft small">
            {counted(exemplars.length, 'exemplar')}. A vial shows own mark less agreed mark, in marks; its lines stand at the tolerance of{' '}
            {numeral(data.assessment.tolerance)}.
          </p>
        )}
      </CloseUp>
    </div>
  )
}
