import { useMemo, useState, type Dispatch, type SetStateAction } from 'react'
import { Button } from 'react-bootstrap'
import { useNavigate, useParams } from 'react-router'
import { gradeAt } from '#core/bounds'
import { explainGrade } from '#core/grades'
import { percentOf } from '#core/rescale'
import { useDecidedCourse, useFigures } from '../../course/course'
import { useKeys } from '../../settings/keys'
import { usePersonLabels } from '../../settings/names'
import { NumberField } from '../../parts/NumberField'
import { page } from '../../api/client'
import { counted, fixed, numeral, share } from '../../parts/format'
import { WorkingOut } from '../../parts/WorkingOut'
import type { StudentFigures } from './figures'
import { MarkChain } from './MarkChain'
import { CloseUp } from '../../parts/CloseUp'
import styles from './student.module.css'

/** Why this grade, down to the readings; and what if, on a copy. */
export default function Student() {
  const { studentId = '' } = useParams()
  const { table } = useDecidedCourse()
  if (!table.students.some((s) => s.id === studentId))
    return <div className="empty">There is no such student in this course. Find people with /.</div>
  return <OneStudent key={studentId} studentId={studentId} />
}

function OneStudent({ studentId }: { studentId: string }) {
  const [what, setWhat] = useState<Record<string, number | null>>({})
  const figures = useFigures('student', studentId, what)
  return figures?.studentId === studentId ? <StudentPage {...figures} what={what} onWhat={setWhat} /> : <WorkingOut />
}

interface Props extends StudentFigures {
  /** Plain marks that are tried. */
  what: Record<string, number | null>
  onWhat: Dispatch<SetStateAction<Record<string, number | null>>>
}

function StudentPage({ studentId, course, ifCourse, standing, leftOut, what, onWhat: setWhat }: Props) {
  const { id, table } = useDecidedCourse()
  const navigate = useNavigate()
  const label = usePersonLabels(table.students)
  const [open, setOpen] = useState<string | null>(null)
  const student = table.students.find((s) => s.id === studentId)!
  const section = table.sections.find((s) => s.id === student.sectionId)
  const trying = Object.keys(what).length > 0

  const titles = useMemo(() => Object.fromEntries([...table.components, ...table.assessments].map((x) => [x.id, x.title])), [table])
  const { decimal } = page.settings
  const why = useMemo(() => explainGrade(course, studentId, titles, decimal), [course, studentId, titles, decimal])
  const whatIf = useMemo(
    () => (ifCourse ? explainGrade(ifCourse, studentId, titles, decimal) : why),
    [ifCourse, why, studentId, titles, decimal],
  )
  const shown = trying ? whatIf : why

  const order = table.students
  const at = order.findIndex((s) => s.id === studentId)
  const step = (by: number) => order[at + by] && void navigate(`/courses/${id}/students/${order[at + by]!.id}`)
  useKeys([
    { key: ']', does: 'next student', run: () => step(1) },
    { key: '[', does: 'student before', run: () => step(-1) },
    { key: 'Escape', does: 'drop the what if, or go back', run: () => (trying ? setWhat({}) : void navigate(-1)) },
  ])
  const percent = percentOf(shown)
  const grade = shown.grade ?? (percent === null ? null : gradeAt(percent, course.boundaries, course.policy.rounding))
  const next = [...course.boundaries].sort((a, b) => a.from - b.from).find((b) => shown.rounded !== null && b.from > shown.rounded)
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>{label(studentId)}</h1>
          <span className="soft">
            {!label(studentId).includes(student.candidate) && `${student.candidate} · `}
            {section?.name}
          </span>
          <div className="at-end fs-5 serif">
            {shown.final !== null ? (
              <>
                <b>{shown.grade ?? 'below all grades'}</b> {numeral(shown.rounded)}
              </>
            ) : (
              <>
                {fixed(percent)} so far{grade && `, ${grade} if it stayed so`}
              </>
            )}
          </div>
        </div>
        <p className="soft">
          {shown.final !== null
            ? `Unrounded ${numeral(shown.adjusted)}${shown.adjusted === shown.final ? '' : `, ${numeral(shown.final)} before the course percent is rescaled`}.${next ? ` ${next.grade} begins at ${numeral(next.from)}, ${numeral(Number((next.from - shown.rounded!).toFixed(3)))} above.` : ''}`
            : `${shown.pending} still pending: between ${fixed(shown.lowest)} with nothing for it and ${fixed(shown.highest)} with full marks.`}
        </p>
        {shown.heldBy.length > 0 && (
          <p className="note warn">
            {shown.steps
              .filter((s) => s.kind === 'condition')
              .map((s) => s.text)
              .join('; ')}
            . By its percent alone it would be {gradeAt(shown.adjusted!, course.boundaries, course.policy.rounding)}.
          </p>
        )}
        <table className={`grid ${styles.chain}`}>
          <thead>
            <tr>
              <th>from mark to grade</th>
              <th className="number">mark</th>
              <th className="number">what if</th>
              <th className="number">percent</th>
              <th className="number">carries</th>
              <th className="number">points</th>
            </tr>
          </thead>
          {shown.chain.map((c) => (
            <tbody key={c.componentId}>
              <tr className={styles.component}>
                <td className="serif fw-semibold">{titles[c.componentId]}</td>
                <td />
                <td />
                <td className="number fw-semibold">{fixed(c.percent)}</td>
                <td className="number">{c.bonus ? 'bonus' : share(c.share)}</td>
                <td className="number fw-semibold">{fixed(c.points, 2)}</td>
              </tr>
              {c.items.map((i) => {
                const tried = i.assessmentId in what
                return (
                  <tr key={i.assessmentId} className={i.dropped ? styles.dropped : ''}>
                    <td>
                      <button
                        className={styles.opener}
                        aria-expanded={open === i.assessmentId}
                        onClick={() => setOpen((o) => (o === i.assessmentId ? null : i.assessmentId))}
                      >
                        {titles[i.assessmentId]}
                      </button>{' '}
                      <span className="small soft">
                        {i.status === 'late' ? `${counted(i.daysLate, 'day')} late` : i.status !== 'in' ? i.status : ''}
                        {i.beforeLate !== null && `, ${fixed(i.beforeLate * 100)}% before`}
                        {i.state === 'pending' && ' pending'}
                        {i.state === 'not applying' &&
                          i.status === 'in' &&
                          (leftOut.includes(i.assessmentId) ? ' left out' : ' not set for this student')}
                        {i.dropped && ' dropped: the worst one'}
                      </span>
                    </td>
                    <td className="number">
                      {tried ? (
                        <s className="soft">{numeral(course.marks.find((m) => m.assessmentId === i.assessmentId)?.mark)}</s>
                      ) : (
                        numeral(i.mark)
                      )}{' '}
                      <span className="soft">of {numeral(i.outOf)}</span>
                      {!tried && <AsMarked standing={standing} assessmentId={i.assessmentId} mark={i.mark} />}
                    </td>
                    <td className="number">
                      <NumberField
                        label={`What if ${titles[i.assessmentId]}`}
                        value={what[i.assessmentId] ?? null}
                        optional
                        min={0}
                        max={i.outOf}
                        step={0.5}
                        onCommit={(v) =>
                          setWhat((w) =>
                            v === null
                              ? Object.fromEntries(Object.entries(w).filter(([k]) => k !== i.assessmentId))
                              : { ...w, [i.assessmentId]: v },
                          )
                        }
                      />
                    </td>
                    <td className="number">{i.fraction === null ? '–' : fixed(i.fraction * 100)}</td>
                    <td />
                    <td />
                  </tr>
                )
              })}
            </tbody>
          ))}
          <tfoot>
            <tr className="fw-semibold">
              <td>Course{shown.final === null && ' so far'}</td>
              <td />
              <td />
              <td className="number">{numeral(shown.final ?? shown.soFar)}</td>
              <td />
              <td className="number">{fixed(shown.final ?? shown.soFar, 2)}</td>
            </tr>
            {shown.final !== null && shown.adjusted !== shown.final && (
              <tr className="fw-semibold">
                <td>Course, rescaled</td>
                <td />
                <td />
                <td className="number">{numeral(shown.adjusted)}</td>
                <td />
                <td className="number">{fixed(shown.adjusted, 2)}</td>
              </tr>
            )}
          </tfoot>
        </table>
      </main>
      <CloseUp>
        {trying && (
          <section>
            <h2>What if</h2>
            <p aria-live="polite">
              {why.final !== null && whatIf.final !== null
                ? `${numeral(why.rounded)} would be ${numeral(whatIf.rounded)}: ${why.grade === whatIf.grade ? `still ${why.grade}` : `${why.grade} would be ${whatIf.grade}`}.`
                : `${fixed(percentOf(why))} so far would be ${fixed(percentOf(whatIf))}${whatIf.grade ? `, ${whatIf.grade}` : ''}.`}{' '}
              Nothing in the record is touched.
            </p>
            <Button size="sm" variant="outline-primary" onClick={() => setWhat({})}>
              Drop the what if <kbd>Esc</kbd>
            </Button>
          </section>
        )}
        {open && (
          <section>
            <MarkChain standing={standing.find((s) => s.assessmentId === open)} assessmentId={open} />
          </section>
        )}
        <section>
          <h2>In words</h2>
          <ol className={styles.steps}>
            {shown.steps
              .filter((s) => s.kind !== 'assessment')
              .map((s, i) => (
                <li key={i} className={s.kind === 'grade' || s.kind === 'course' ? 'fw-semibold' : ''}>
                  {s.text}
                </li>
              ))}
          </ol>
          {!open && (
            <p className="soft small">
              Open an assessment on the left to see its readings and what was done to its mark; type in “what if” to see whether the grade
              would move.
            </p>
          )}
        </section>
      </CloseUp>
    </div>
  )
}

/** The mark as it was given, where what counts is another. */
function AsMarked({ standing, assessmentId, mark }: Pick<StudentFigures, 'standing'> & { assessmentId: string; mark: number | null }) {
  const plain = standing.find((s) => s.assessmentId === assessmentId)?.plain
  return plain === undefined || plain === null || plain === mark ? null : (
    <span className="ochre small d-block">marked {numeral(plain)}, rescaled</span>
  )
}
