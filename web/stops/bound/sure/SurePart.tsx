import type { ReactNode } from 'react'
import { Link } from 'react-router'
import { useCourse, useFigures } from '../../../course/course'
import { usePersonLabels } from '../../../settings/names'
import { NumberField } from '../../../parts/NumberField'
import { WorkingOut } from '../../../parts/WorkingOut'
import { TakeOut } from '../../../parts/take-out/TakeOut'
import { counted, fixed, numeral, share } from '../../../parts/format'
import { SureBar } from '../SureBar'
import { useGivenErrors } from '../../../parts/useGivenErrors'
import { CloseUp } from '../../../parts/CloseUp'

const LEAST_SURE = 25

/** How sure the grades are: line by line, student by student, what the doubt is made of, and what nobody knows. */
export function SurePart({ nav }: { nav: ReactNode }) {
  const { id, table, current, mayDecide } = useCourse()
  const label = usePersonLabels(table.students)
  const [given, give] = useGivenErrors()
  const sure = useFigures('sure', given)
  if (!sure) return <WorkingOut />
  const assessment = new Map(table.assessments.map((a) => [a.id, a]))
  const students = current.students
    .map((s, i) => ({ ...s, chance: sure.chance[i]! }))
    .filter((s) => !Number.isNaN(s.chance))
    .sort((a, b) => a.chance - b.chance)
  const wrong = students.reduce((n, s) => n + 1 - s.chance, 0)
  return (
    <div className="work typed-here">
      <main className="table-side">
        <div className="stop-head">
          <h1>How sure are the grades?</h1>
          {nav}
        </div>
        {sure.typical === null ? (
          <p className="empty">
            Nobody can tell yet: how far a reading is off is known once ten scripts of an assessment were read twice, or once somebody says
            so on the right.
          </p>
        ) : (
          <>
            <p>
              A course percent is off by about <b>±{fixed(sure.typical)}</b>, so of {counted(sure.graded, 'grade')} about{' '}
              <b>{fixed(wrong)}</b> may be wrong. <Link to={`/courses/${id}/reconcile?part=look-next`}>Where to look next</Link> says which
              readings would tell most.
            </p>
            <table className="grid">
              <thead>
                <tr>
                  <th>line</th>
                  <th className="number">begins at</th>
                  <th className="number">stand within ±{fixed(sure.typical)}</th>
                  <th className="number">belong on the other side</th>
                </tr>
              </thead>
              <tbody>
                {sure.lines.map((l) => (
                  <tr key={l.grade}>
                    <td>{l.grade}</td>
                    <td className="number">{numeral(l.from)}</td>
                    <td className="number">{l.within}</td>
                    <td className="number fw-semibold">{fixed(l.wrongSide)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            <div className="stop-head mt-4">
              <h2>Least sure of their grade</h2>
              <div className="at-end">
                <TakeOut
                  table={() => ({
                    title: 'How sure of the grade',
                    header: ['student', 'percent', 'grade', 'chance of the grade'],
                    rows: students.map((s) => [label(s.studentId), s.rounded ?? '', s.grade ?? '', Number(s.chance.toFixed(4))]),
                  })}
                />
              </div>
            </div>
            <table className="grid">
              <tbody>
                {students.slice(0, LEAST_SURE).map((s) => (
                  <tr key={s.studentId}>
                    <td>
                      <Link to={`/courses/${id}/students/${s.studentId}`}>{label(s.studentId)}</Link>
                    </td>
                    <td className="number">{fixed(s.rounded)}</td>
                    <td>{s.grade}</td>
                    <td>
                      <SureBar chance={s.chance} />
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </>
        )}
      </main>
      <CloseUp>
        <section>
          <h2>What the doubt is made of</h2>
          <p className="soft small">
            How far one reading is off, what a mark carries of the course, and how many readings stand behind it. A student’s true percent
            is taken to lie around theirs as errors do; those of the course itself, its questions and its day, are not in it.
          </p>
          <table className="grid">
            <thead>
              <tr>
                <th>assessment</th>
                <th className="number">a reading is off by</th>
                <th className="number">of all doubt</th>
              </tr>
            </thead>
            <tbody>
              {sure.parts.map((p) => (
                <tr key={p.assessmentId}>
                  <td>
                    {assessment.get(p.assessmentId)?.title}
                    {p.scripts !== null && <span className="soft small"> {p.scripts} read twice</span>}
                  </td>
                  <td className="number">
                    {p.scripts === null ? (
                      <NumberField
                        label={`A reading of ${assessment.get(p.assessmentId)?.title} is off by`}
                        value={p.error}
                        optional
                        min={0}
                        max={assessment.get(p.assessmentId)?.outOf}
                        step={0.5}
                        onCommit={(v) => give(p.assessmentId, v)}
                      />
                    ) : (
                      <>
                        {fixed(p.error)} <span className="soft">of {numeral(assessment.get(p.assessmentId)?.outOf)}</span>
                      </>
                    )}
                  </td>
                  <td className="number">{share(p.share)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
        {sure.unknown.length > 0 && (
          <section>
            <h2>Not known</h2>
            <p className="soft small">
              Fewer than ten of their scripts were read twice. What they add is left out, so grades are less sure than this says.
              {mayDecide && ' Say what you know: it is used here, and kept in this browser.'}
            </p>
            <table className="grid">
              <tbody>
                {sure.unknown.map((a) => (
                  <tr key={a}>
                    <td>{assessment.get(a)?.title}</td>
                    <td className="number" style={{ width: 90 }}>
                      <NumberField
                        label={`A reading of ${assessment.get(a)?.title} is off by`}
                        value={given[a] ?? null}
                        optional
                        min={0}
                        max={assessment.get(a)?.outOf}
                        step={0.5}
                        onCommit={(v) => give(a, v)}
                      />
                    </td>
                    <td className="soft" style={{ width: 60 }}>
                      of {numeral(assessment.get(a)?.outOf)}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        )}
      </CloseUp>
    </div>
  )
}
