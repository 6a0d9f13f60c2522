import { useMemo } from 'react'
import { describe } from '#core'
import type { Assessment } from '#contract'
import { useCourse } from '../../frame/course'
import { usePersonLabels } from '../../frame/names'
import { PeopleList } from '../../parts/PeopleList'
import { Vial } from '../../parts/Vial'
import { counted, fixed } from '../../parts/format'
import { compareSections } from '../compare/compared'
import type { RescaleDraft } from './draft'

const NAMED = 3

/** Plain and adjusted side by side, by section; who moves and who overtakes whom. */
export function RescaleEffect({ assessment, draft }: { assessment: Assessment; draft: RescaleDraft }) {
  const course = useCourse()
  const { table, trial, current } = course
  const label = usePersonLabels(table.students)
  const compared = useMemo(() => compareSections(course, assessment.id), [course, assessment.id])
  const sectionOf = useMemo(() => new Map(table.students.map((s) => [s.id, s.sectionId])), [table.students])
  const plainMarks = (sectionId: string) => draft.after.flatMap((s) => (sectionOf.get(s.studentId) === sectionId ? (s.plain ?? []) : []))
  const passed = (marks: number[]) => (assessment.passMark === null ? null : marks.filter((m) => m >= assessment.passMark!).length)
  const movers = trial.change?.movers ?? []
  return (
    <section>
      <h2>What it does</h2>
      <table className="grid">
        <thead>
          <tr>
            <th>section</th>
            <th className="num">as marked</th>
            <th className="num">rescaled</th>
            <th className="num">passed</th>
            <th className="num">up</th>
            <th className="num">down</th>
            <th>leans from the rest</th>
          </tr>
        </thead>
        <tbody>
          {compared.sections.map((s) => {
            const was = plainMarks(s.id)
            const own = movers.filter((m) => sectionOf.get(m.studentId) === s.id)
            const up = own.filter((m) => m.direction > 0).length
            const down = own.filter((m) => m.direction < 0).length
            return (
              <tr key={s.id}>
                <td className="fw-semibold">{s.name}</td>
                <td className="num soft">{fixed(describe(was).mean)}</td>
                <td className="num fw-semibold">{fixed(s.figures.mean)}</td>
                <td className="num">
                  {s.passed ?? '–'}
                  {s.passed !== passed(was) && <span className="soft"> was {passed(was)}</span>}
                </td>
                <td className="num">{up || ''}</td>
                <td className="num">{down || ''}</td>
                <td>
                  <Vial name={s.name} lean={s.lean.difference} interval={s.lean.interval} tolerance={compared.tolerance} figure={false} />
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {trial.change && (
        <p className="small mt-2 mb-1">
          {trial.change.reversed === 0
            ? 'Nobody overtakes anybody in the course.'
            : `${counted(trial.change.reversed, 'pair')} change places in the course: ${trial.change.pairs
                .slice(0, NAMED)
                .map((p) => `${label(p.passes)} passes ${label(p.passed)}`)
                .join('; ')}${trial.change.reversed > NAMED ? ' and so on' : ''}.`}
        </p>
      )}
      {movers.length > 0 && (
        <details>
          <summary>See all {movers.length} who move</summary>
          <PeopleList
            people={movers.map((m) => ({
              studentId: m.studentId,
              figures: (
                <>
                  <span className="num soft">
                    {fixed(m.fromPercent)} → {fixed(m.toPercent)}
                  </span>
                  <span>
                    {m.fromGrade ?? 'open'} → <b>{m.toGrade ?? 'open'}</b>
                  </span>
                </>
              ),
            }))}
            empty="Nobody."
          />
        </details>
      )}
      {draft.after.every((s) => s.mark === s.plain) && current.standing.length > 0 && !draft.trying && (
        <p className="soft small">Nothing is rescaled here: rescaled equals as marked.</p>
      )}
    </section>
  )
}
