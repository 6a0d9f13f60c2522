import { useEffect, useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { useSearchParams } from 'react-router'
import { describe } from '#core/compare'
import { adjuster, METHOD_KINDS, methodOf, type Adjustment, type AdjustmentMethod, type MethodKind, type Point } from '#core/rescale'
import { useCourse, useFigures } from '../../course/course'
import { useKeys } from '../../settings/keys'
import { OfSelect } from '../../parts/OfSelect'
import { fixed, numeral } from '../../parts/format'
import { CurveChart } from './CurveChart'
import { MethodForm } from './methods/forms'
import { tickStep } from '../../parts/ticks'
import { WorkingOut } from '../../parts/WorkingOut'
import { triedOn } from './figures'
import { RescaleEffect } from './RescaleEffect'
import { Stack } from './Stack'
import './rescale.css'

const LINE_POINTS = 121
const NONE: number[] = []

/** The map from mark to mark: pull it, see what it does, adopt it, switch it off again. */
export default function Rescale() {
  const { table, propose, preview, setTrial, trial, mayDecide } = useCourse()
  const [search, setSearch] = useSearchParams()
  // The first one is chosen once, from what is adopted: the screen must not jump while a trial moves means.
  const [first, setFirst] = useState<string | null>(null)
  const figures = useFigures('rescale', search.get('of') ?? first)
  useEffect(() => {
    if (figures) setFirst((was) => was ?? figures.assessmentId)
  }, [figures])
  const assessment = table.assessments.find((a) => a.id === figures?.assessmentId)
  const [chosen, setChosen] = useState(2)
  const trying = useMemo(
    () => (assessment ? (triedOn(table, trial.changes, assessment.id)?.adjustment ?? null) : null),
    [table, trial.changes, assessment],
  )

  const put = (a: Adjustment, label = `rescale ${assessment?.title}`) => propose([{ kind: 'adjust', adjustment: a }], label)
  const start = (kind: MethodKind) => {
    if (!assessment || !mayDecide) return
    const method = methodOf(kind).start(assessment.outOf, tickStep(assessment.outOf))
    setChosen(kind === 'curve' ? 2 : 1)
    put(
      trying
        ? { ...trying, method }
        : {
            id: crypto.randomUUID(),
            assessmentId: assessment.id,
            outOf: assessment.outOf,
            sectionIds: null,
            method,
            on: true,
            neverLower: true,
            above: 'keep within',
            step: 0.5,
          },
      `${methodOf(kind).title} on ${assessment.title}`,
    )
  }
  const set = (patch: Partial<Adjustment>) => trying && put({ ...trying, ...patch })
  const setMethod = (method: AdjustmentMethod) => set({ method })
  const drop = () =>
    setTrial(
      trial.changes.filter((c) => c.kind !== 'adjust' || c.adjustment.id !== trying?.id),
      `drop the try on ${assessment?.title}`,
    )
  useKeys([
    ...METHOD_KINDS.map((kind, i) => ({ key: String(i + 1), does: methodOf(kind).title, run: () => start(kind) })),
    { key: 'Delete', does: 'drop what is being tried here', run: () => trying && drop() },
  ])

  const before = figures?.before ?? NONE
  const line = useMemo(() => {
    if (!trying || !assessment) return null
    try {
      const change = adjuster({ ...trying, step: null }, before)
      return Array.from({ length: LINE_POINTS }, (_, i) => (assessment.outOf * i) / (LINE_POINTS - 1)).map((x) => ({
        x,
        y: change(Number(x.toFixed(4))),
      }))
    } catch {
      return null
    }
  }, [trying, assessment, before])
  if (figures === undefined) return <WorkingOut />
  if (!assessment || !figures || !table.hasMarks)
    return (
      <div className="empty">
        There are no marks to rescale yet. When they come in at Mark, an assessment that was too hard or too easy can be brought level here.
      </div>
    )
  const pulling = trying ? (methodOf(trying.method.kind).points ?? null) : null
  const points = trying && pulling ? pulling.of(trying.method) : null
  const pulled = (p: Point[]) => pulling!.put(trying!.method, p)
  const method = trying?.method
  return (
    <div className="work rescale">
      <main className="table-side">
        <div className="stop-head">
          <h1>{assessment.title}</h1>
          <span className="soft small">
            mean {fixed(describe(before).mean)} of {numeral(assessment.outOf)}
          </span>
          <div className="end">
            <OfSelect
              table={table}
              value={assessment.id}
              label="Assessment to rescale"
              onChange={(of) => setSearch({ of }, { replace: true })}
            />
          </div>
        </div>
        <CurveChart
          outOf={assessment.outOf}
          before={before}
          after={figures.after}
          line={line}
          dots={figures.dots}
          points={points}
          chosen={chosen}
          onChoose={setChosen}
          disabled={!mayDecide}
          onPull={(p) => trying && preview([{ kind: 'adjust', adjustment: { ...trying, method: pulled(p) } }])}
          onLetGo={(p) => trying && setMethod(pulled(p))}
        />
      </main>
      <aside className="close-up" aria-label="Close-up">
        {mayDecide && (
          <section>
            <h2>How</h2>
            <div className="words-choice" role="group" aria-label="How to rescale">
              {METHOD_KINDS.map((kind, i) => (
                <button key={kind} aria-pressed={method?.kind === kind} onClick={() => start(kind)} title={methodOf(kind).says}>
                  {methodOf(kind).title} <kbd>{i + 1}</kbd>
                </button>
              ))}
            </div>
            {method && trying ? (
              <>
                <p className="soft small mt-1 mb-1">{methodOf(method.kind).says}</p>
                <MethodForm method={method} outOf={assessment.outOf} chosen={chosen} onChoose={setChosen} onMethod={setMethod} />
                <div className="options">
                  <Form.Check
                    id="never-lower"
                    label="never lower a mark"
                    checked={trying.neverLower}
                    onChange={(e) => set({ neverLower: e.target.checked })}
                  />
                  <Form.Check
                    id="stay-within"
                    label={`stay within 0 to ${numeral(assessment.outOf)}`}
                    checked={trying.above === 'keep within'}
                    onChange={(e) => set({ above: e.target.checked ? 'keep within' : 'allow' })}
                  />
                  <label>
                    <span className="soft">round to </span>
                    <Form.Select
                      className="d-inline-block"
                      size="sm"
                      value={trying.step ?? ''}
                      onChange={(e) => set({ step: e.target.value === '' ? null : Number(e.target.value) })}
                    >
                      <option value="">nothing</option>
                      <option value="0.5">0.5</option>
                      <option value="1">1</option>
                    </Form.Select>
                  </label>
                  <label>
                    <span className="soft">for </span>
                    <Form.Select
                      className="d-inline-block"
                      size="sm"
                      value={trying.sectionIds?.[0] ?? ''}
                      onChange={(e) => set({ sectionIds: e.target.value === '' ? null : [e.target.value] })}
                    >
                      <option value="">all sections</option>
                      {table.sections.map((s) => (
                        <option key={s.id} value={s.id}>
                          {s.name}
                        </option>
                      ))}
                    </Form.Select>
                  </label>
                  <Button size="sm" variant="link" onClick={drop}>
                    Drop it <kbd>Del</kbd>
                  </Button>
                </div>
              </>
            ) : (
              <p className="soft small mt-1 mb-0">
                Choose a way: it opens as a trial, and nothing changes until you adopt it. The marks as they were given always stay beside.
              </p>
            )}
          </section>
        )}
        <RescaleEffect figures={figures} trying={trying !== null} />
        <Stack assessment={assessment} trying={trying} />
      </aside>
    </div>
  )
}
