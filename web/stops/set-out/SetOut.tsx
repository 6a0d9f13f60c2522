import { useMemo, useState } from 'react'
import { Button } from 'react-bootstrap'
import { effectiveWeights, type SectionWeights } from '#core'
import { routes, type Assessment, type Component } from '#contract'
import { call, messageOf } from '../../api/client'
import { useCourse } from '../../frame/course'
import { useSaved } from '../../frame/saved'
import { useUndo } from '../../frame/undo'
import { useKeys } from '../../frame/keys'
import { NumberField } from '../../parts/NumberField'
import { plain } from '../../parts/format'
import { NewAssessment } from './NewAssessment'
import { Proof } from './Proof'
import { TitleField } from './TitleField'
import { WeightBar } from './WeightBar'
import './set-out.css'

const HOW: Record<Assessment['marking'], string> = {
  direct: 'direct',
  rubric: 'rubric',
  scheme: 'mark scheme',
  judgement: 'overall judgement',
  completion: 'completion',
}

/** The plan: what counts, and how much. Before there are marks it is edited; after, a change of weights is a trial. */
export default function SetOut() {
  const { id, table, workings, trial, propose, refresh, mayDecide } = useCourse()
  const { saving } = useSaved()
  const { did } = useUndo()
  const [problem, setProblem] = useState<string | null>(null)
  const [adding, setAdding] = useState(false)
  useKeys(mayDecide ? [{ key: 'a', does: 'add an assessment', run: () => setAdding(true) }] : [])

  const triedWeight = (c: Component) =>
    trial.changes.reduce((w, x) => (x.kind === 'weigh' && x.componentId === c.id ? x.weight : w), c.weight)
  const triedAssessment = (a: Assessment) =>
    trial.changes.reduce((now, x) => (x.kind === 'assess' && x.assessmentId === a.id ? { ...now, ...x.patch } : now), a)
  const components = table.components.map((c) => ({ ...c, weight: triedWeight(c) }))
  const assessments = table.assessments.map(triedAssessment)

  const weights = useMemo(
    () =>
      effectiveWeights({
        ...workings.course,
        marks: [],
        components: components.map((c) => ({ ...c, weight: c.weight ?? 0 })),
        assessments: assessments.map((a) => ({ ...a, worth: a.worth ?? 0 })),
      }),
    // The two lists are made anew at every drawing; what they follow from is the table and the trial.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [workings, trial.changes],
  )

  const write = async (label: string, send: (undoing: boolean) => Promise<unknown>, back?: () => Promise<unknown>) => {
    setProblem(null)
    try {
      await saving(send(false))
      await refresh()
      if (back) did({ label, undo: () => void saving(back()).then(refresh), redo: () => void saving(send(true)).then(refresh) })
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  const latestComponent = async (componentId: string) =>
    (await call(routes.table, { params: { courseId: id } })).components.find((c) => c.id === componentId)!
  const latestAssessment = async (assessmentId: string) =>
    (await call(routes.table, { params: { courseId: id } })).assessments.find((a) => a.id === assessmentId)!

  const editComponent = (c: Component, patch: { title?: string; weight?: number | null }) => {
    const send = async (p: typeof patch) =>
      call(routes.editComponent, {
        params: { courseId: id, componentId: c.id },
        body: { version: (await latestComponent(c.id)).version, ...p },
      })
    const before = Object.fromEntries(Object.keys(patch).map((k) => [k, c[k as keyof Component]])) as typeof patch
    void write(
      `edit ${c.title}`,
      () => send(patch),
      () => send(before),
    )
  }
  type Patch = Partial<Pick<Assessment, 'title' | 'outOf' | 'worth' | 'passMark' | 'tolerance' | 'counts' | 'droppable'>>
  const editAssessment = (a: Assessment, patch: Patch) => {
    const send = async (p: Patch) =>
      call(routes.editAssessment, {
        params: { courseId: id, assessmentId: a.id },
        body: { version: (await latestAssessment(a.id)).version, ...p },
      })
    const before = Object.fromEntries(Object.keys(patch).map((k) => [k, a[k as keyof Assessment]])) as Patch
    void write(
      `edit ${a.title}`,
      () => send(patch),
      () => send(before),
    )
  }
  const weigh = (changes: { component: Component; weight: number }[], label: string) => {
    if (table.hasMarks)
      propose(
        changes.map(({ component, weight }) => ({ kind: 'weigh', componentId: component.id, weight })),
        label,
      )
    else
      for (const { component, weight } of changes)
        editComponent(
          table.components.find((c) => c.id === component.id)!,
          { weight },
        )
  }
  const setCounting = (a: Assessment, patch: { worth?: number; counts?: boolean; droppable?: boolean }) => {
    if (table.hasMarks) propose([{ kind: 'assess', assessmentId: a.id, patch }], `change ${a.title}`)
    else
      editAssessment(
        table.assessments.find((x) => x.id === a.id)!,
        patch,
      )
  }

  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>What counts, and how much</h1>
          <div className="end soft small">
            {table.hasMarks ? 'There are marks: a change here is tried first' : 'No marks yet: changes are saved as you make them'}
          </div>
        </div>
        {problem && (
          <p className="note bad" role="alert">
            {problem}
          </p>
        )}
        <WeightBar components={components} onChange={weigh} disabled={!mayDecide} />
        <table className="grid plan">
          <thead>
            <tr>
              <th>assessment</th>
              <th>how it is marked</th>
              <th className="num">marked out of</th>
              <th className="num">worth</th>
              <th className="num">really carries</th>
              <th className="num">pass mark</th>
              <th>counts</th>
              <th>set for</th>
              <th>
                <span className="visually-hidden">findings</span>
              </th>
            </tr>
          </thead>
          {components.map((c) => (
            <tbody key={c.id}>
              <tr className="component">
                <td colSpan={2}>
                  <TitleField
                    label={`Title of ${c.title}`}
                    value={c.title}
                    disabled={!mayDecide}
                    onCommit={(title) => editComponent(c, { title })}
                  />
                </td>
                <td colSpan={2} className="num soft">
                  weighs
                </td>
                <td className="num">
                  <NumberField
                    label={`Weight of ${c.title}`}
                    value={c.weight}
                    missing
                    min={0}
                    max={1000}
                    disabled={!mayDecide}
                    onCommit={(w) => w !== null && weigh([{ component: c, weight: w }], `weigh ${c.title}`)}
                  />
                </td>
                <td colSpan={4} className="soft">
                  {c.weight === null && <span className="ochre">weight is missing: it carries nothing until you type it</span>}
                  {c.bonus && ' a bonus, in points of the course percent'}
                  {c.dropLowest > 0 && ` the worst ${c.dropLowest === 1 ? 'one' : c.dropLowest} dropped`}
                </td>
              </tr>
              {assessments
                .filter((a) => a.componentId === c.id)
                .map((a) => (
                  <tr key={a.id}>
                    <td>
                      <TitleField
                        label={`Title of ${a.title}`}
                        value={a.title}
                        disabled={!mayDecide}
                        onCommit={(title) => editAssessment(a, { title })}
                      />
                    </td>
                    <td className="soft">
                      {HOW[a.marking]}
                      {a.readingsWanted > 1 && `, ${a.readingsWanted === 2 ? 'two' : a.readingsWanted} readings`}
                    </td>
                    <td>
                      <NumberField
                        label={`${a.title} marked out of`}
                        value={a.outOf}
                        min={0.001}
                        max={10000}
                        disabled={!mayDecide}
                        onCommit={(outOf) => outOf !== null && editAssessment(a, { outOf })}
                      />
                    </td>
                    <td>
                      <NumberField
                        label={`${a.title} worth`}
                        value={a.worth}
                        missing
                        min={0}
                        max={10000}
                        disabled={!mayDecide}
                        onCommit={(worth) => worth !== null && setCounting(a, { worth })}
                      />
                    </td>
                    <td className="num">
                      <Carries weights={weights} assessmentId={a.id} counts={a.counts} />
                    </td>
                    <td>
                      <NumberField
                        label={`${a.title} pass mark`}
                        value={a.passMark}
                        optional
                        min={0}
                        max={a.outOf}
                        disabled={!mayDecide}
                        onCommit={(passMark) => editAssessment(a, { passMark })}
                      />
                    </td>
                    <td>
                      <input
                        type="checkbox"
                        className="form-check-input"
                        aria-label={`${a.title} counts`}
                        checked={a.counts}
                        disabled={!mayDecide}
                        onChange={(e) => setCounting(a, { counts: e.target.checked })}
                      />
                    </td>
                    <td className="soft">
                      <SetFor assessmentId={a.id} />
                    </td>
                    <td className="ochre small">
                      {a.worth === null && 'worth is missing: it carries nothing yet'}
                      {a.passMark !== null && a.passMark > a.outOf && `the pass mark is over ${plain(a.outOf)}`}
                    </td>
                  </tr>
                ))}
            </tbody>
          ))}
        </table>
        {mayDecide && (
          <div className="buttons mt-3">
            <Button variant="outline-primary" onClick={() => setAdding(true)}>
              New assessment <kbd>A</kbd>
            </Button>
          </div>
        )}
        {adding && (
          <NewAssessment
            components={table.components}
            hasMarks={table.hasMarks}
            onClose={() => setAdding(false)}
            onAdd={(body) =>
              write('add an assessment', () => call(routes.addAssessment, { params: { courseId: id }, body })).then(() => setAdding(false))
            }
          />
        )}
      </main>
      <aside className="close-up" aria-label="Close-up">
        <Proof components={components} assessments={assessments} />
      </aside>
    </div>
  )
}

/** The effective weight, or the range of it where sections differ. */
function Carries({ weights, assessmentId, counts }: { weights: SectionWeights[]; assessmentId: string; counts: boolean }) {
  const found = weights.flatMap((s) => s.weights.filter((w) => w.assessmentId === assessmentId))
  if (!counts) return <span className="soft">not counted</span>
  if (found.length === 0) return <>–</>
  const points = found.map((w) => w.points)
  if (points[0] !== null && points[0] !== undefined) return <b>up to {points[0].toFixed(1)}</b>
  const shares = found.map((w) => (w.share ?? 0) * 100)
  const [low, high] = [Math.min(...shares), Math.max(...shares)]
  return (
    <>
      <b>{high - low < 0.05 ? high.toFixed(1) : `${low.toFixed(1)}–${high.toFixed(1)}`}</b> <span className="soft">%</span>
    </>
  )
}

function SetFor({ assessmentId }: { assessmentId: string }) {
  const { table } = useCourse()
  const n = table.placements.filter((p) => p.assessmentId === assessmentId).length
  const all = table.sections.length
  return n === all ? <>all {all}</> : <b className="ochre">{n === 0 ? 'no section' : `${n} of ${all}`}</b>
}
