import { useMemo, useState } from 'react'
import { Form } from 'react-bootstrap'
import { useDecidedCourse, useJudgedFigures } from '../../../course/course'
import { useKeys } from '../../../settings/keys'
import { TakeOut } from '../../../parts/take-out/TakeOut'
import { WorkingOut } from '../../../parts/WorkingOut'
import { counted, fixed, numeral, share } from '../../../parts/format'
import { CompareHead } from '../CompareHead'
import type { ViewProps } from '../kinds'
import { CloseUp } from '../../../parts/CloseUp'
import styles from '../compare.module.css'
import { CriterionCloseUp } from './CriterionCloseUp'
import type { ComparedCriterion, Only } from './figures'
import { LevelStrip } from './LevelStrip'
import { criteriaOut } from './table-out'

const NONE: ComparedCriterion[] = []
/** Below this a criterion does not go with the rest. */
const WITH_REST = 0.2

/** What each criterion did: which levels were given, whether it goes with the rest, how alike two readings are on it. */
export function Criteria(view: ViewProps) {
  const { table } = useDecidedCourse()
  const [only, setOnly] = useState<Only>(null)
  const assessment = table.assessments.find((a) => a.id === view.subject)
  const compared = useJudgedFigures('criteria', assessment ? assessment.id : null, only)
  const [chosenId, setChosen] = useState<string | null>(null)
  const [level, setLevel] = useState<number | null>(null)
  const rows = compared?.assessmentId === view.subject ? compared.criteria : NONE
  const chosen = rows.find((c) => c.criterionId === chosenId) ?? rows[0]
  const choose = (id: string, at: number | null = null) => {
    setChosen(id)
    setLevel(at)
  }
  const step = (by: number) => {
    const next = chosen && rows[rows.indexOf(chosen) + by]
    if (next) choose(next.criterionId)
  }
  const stepLevel = (by: number) => {
    if (!chosen || chosen.labels.length === 0) return
    const next = level === null ? (by > 0 ? 0 : chosen.labels.length - 1) : level + by
    setLevel(next >= 0 && next < chosen.labels.length ? next : null)
  }
  useKeys([
    { key: 'ArrowDown', does: 'next criterion', run: () => step(1) },
    { key: 'ArrowUp', does: 'criterion before', run: () => step(-1) },
    { key: 'ArrowRight', does: 'next level: who was given it', run: () => stepLevel(1) },
    { key: 'ArrowLeft', does: 'level before', run: () => stepLevel(-1) },
    { key: 'Escape', does: 'no level', run: () => setLevel(null) },
  ])
  const marked = useMemo(() => table.assessments.filter((a) => a.standardId !== null && a.marking !== 'judgement'), [table])
  const head = (
    <CompareHead
      {...view}
      rows="criteria"
      question="Does every criterion tell scripts apart?"
      out={rows.length > 0 && <TakeOut table={() => criteriaOut(assessment!.title, rows)} />}
    >
      <div className={styles.bar}>
        <OnlySelect only={only} onOnly={setOnly} />
        {compared && rows.length > 0 && <span className="soft small">{counted(compared.readings, 'reading')}</span>}
      </div>
    </CompareHead>
  )
  if (!assessment || !marked.includes(assessment))
    return (
      <div className="work alone">
        <main className="table-side">
          {head}
          <div className="empty">
            Criteria belong to one assessment that is marked by a rubric or a mark scheme.{' '}
            {marked.length > 0 ? 'These are:' : 'None is yet: attach one at Agree.'}
            <ul className="list-unstyled mt-2">
              {marked.map((a) => (
                <li key={a.id}>
                  <button className="quiet-button" onClick={() => view.onShow({ of: a.id })}>
                    {a.title}
                  </button>
                </li>
              ))}
            </ul>
          </div>
        </main>
      </div>
    )
  if (compared?.assessmentId !== view.subject) return <WorkingOut />
  return (
    <div className="work">
      <main className="table-side">
        {head}
        <table className={`grid ${styles.grid}`}>
          <thead>
            <tr>
              <th>criterion</th>
              <th>how often each level was given</th>
              <th className="number">judged</th>
              <th className="number" title="Mean share of its most points">
                mean
              </th>
              <th className="number">sd</th>
              <th className="number" title="Correlation with the total of the other criteria">
                with the rest
              </th>
              <th className="number" title="By how many points two readings differ in the middle of cases">
                apart
              </th>
              <th className="number" title="Krippendorff’s alpha on its points">
                α
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((c) => (
              <tr key={c.criterionId} className="pick" aria-selected={c === chosen} onClick={() => choose(c.criterionId)}>
                <td className={styles.criterion}>
                  <button className="row-name" onClick={() => choose(c.criterionId)}>
                    {c.title}
                  </button>
                  <small>{c.penalty ? `takes off up to ${numeral(c.max)}` : `of ${numeral(c.max)}`}</small>
                </td>
                <td>
                  <LevelStrip criterion={c} chosen={c === chosen ? level : null} onPick={(at) => choose(c.criterionId, at)} />
                </td>
                <td className="number">{c.n}</td>
                <td className="number">{share(c.mean)}</td>
                <td className="number soft">{share(c.sd)}</td>
                <td className={`number ${c.withOthers !== null && c.withOthers < WITH_REST && !c.penalty ? 'ochre fw-semibold' : ''}`}>
                  {fixed(c.withOthers, 2)}
                </td>
                <td className="number">{numeral(c.apart)}</td>
                <td className="number soft">{fixed(c.alpha, 2)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <Odd rows={rows} />
      </main>
      <CloseUp>{chosen && <CriterionCloseUp criterion={chosen} assessment={assessment} level={level} onLevel={setLevel} />}</CloseUp>
    </div>
  )
}

/** Whose readings are looked at. */
function OnlySelect({ only, onOnly }: { only: Only; onOnly: (only: Only) => void }) {
  const { table } = useDecidedCourse()
  const value = only === null ? '' : 'sectionId' in only ? `section ${only.sectionId}` : `marker ${only.markerId}`
  const read = (text: string): Only => {
    const [kind, ...id] = text.split(' ')
    return kind === 'section' ? { sectionId: id.join(' ') } : kind === 'marker' ? { markerId: id.join(' ') } : null
  }
  return (
    <Form.Select size="sm" className="w-auto" aria-label="Whose readings" value={value} onChange={(e) => onOnly(read(e.target.value))}>
      <option value="">all readings</option>
      <optgroup label="of a section’s scripts">
        {table.sections.map((s) => (
          <option key={s.id} value={`section ${s.id}`}>
            {s.name}
          </option>
        ))}
      </optgroup>
      <optgroup label="by a marker">
        {table.markers.map((m) => (
          <option key={m.id} value={`marker ${m.id}`}>
            {m.name}
          </option>
        ))}
      </optgroup>
    </Form.Select>
  )
}

/** What is odd about the criteria, in sentences. */
function Odd({ rows }: { rows: readonly ComparedCriterion[] }) {
  const said = rows.flatMap((c) => [
    ...(c.n > 1 && c.sd === 0 ? [`${c.title}: everybody was given the same, so it tells nobody apart.`] : []),
    ...(c.withOthers !== null && c.withOthers < 0 && !c.penalty
      ? [`${c.title} goes against the rest: who does well on it does worse on the others.`]
      : []),
    ...(c.withOthers !== null && c.withOthers >= 0 && c.withOthers < WITH_REST && !c.penalty
      ? [`${c.title} hardly goes with the rest: it may look at something else.`]
      : []),
    ...(c.unused.length > 0 && c.n > 0 && !c.penalty
      ? [`${c.title}: nobody was given ${c.unused.map((at) => `${numeral(c.labels[at]!.points)}`).join(' or ')}.`]
      : []),
  ])
  if (said.length === 0) return null
  return (
    <ul className="small mt-2 ps-3">
      {said.map((s) => (
        <li key={s}>{s}</li>
      ))}
    </ul>
  )
}
