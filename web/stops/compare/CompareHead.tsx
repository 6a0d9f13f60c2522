import type { ReactNode } from 'react'
import { Form } from 'react-bootstrap'
import { Link } from 'react-router'
import { useDecidedCourse } from '../../course/course'
import { OfSelect } from '../../parts/OfSelect'
import { counted, today } from '../../parts/format'
import { WHOLE_COURSE } from '../../parts/of-what'
import { WriteProblem } from '../../saving/writes'
import { KINDS, type Kind, type ViewProps } from './kinds'

interface Props extends ViewProps {
  rows: Kind
  /** It is shown as it was marked, whatever was rescaled since. */
  asMarked?: boolean
  /** What is asked of these rows. */
  question: string
  /** Ways to take it out. */
  out?: ReactNode
  /** What else chooses what is shown, under the heading. */
  children?: ReactNode
}

/** The head of a comparison: what is asked, of which rows, in what. */
export function CompareHead({ rows, asMarked = false, subject, onShow, question, out, children }: Props) {
  const { table } = useDecidedCourse()
  return (
    <>
      <div className="stop-head">
        <h1>{question}</h1>
        <div className="at-end">
          <span className="soft">rows</span>
          <Form.Select size="sm" aria-label="Rows" value={rows} onChange={(e) => onShow({ rows: e.target.value as Kind })}>
            {KINDS.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </Form.Select>
          <span className="soft">in</span>
          <OfSelect table={table} value={subject} whole={{ id: WHOLE_COURSE, title: 'the course' }} onChange={(id) => onShow({ of: id })} />
          {out}
        </div>
      </div>
      {(rows === 'sections' || rows === 'years') && !asMarked && <Rescaled of={subject} />}
      <p className="d-none d-print-block small">
        {table.head.code} {table.head.title}, {table.head.term} ·{' '}
        {[...table.assessments, ...table.components].find((x) => x.id === subject)?.title ?? 'the course'} · {table.students.length}{' '}
        students · {today()}
      </p>
      <WriteProblem />
      {children}
    </>
  )
}

/** That what is compared is not the marks as they were given, and the way to what was done to them. */
function Rescaled({ of: subject }: { of: string | null }) {
  const { id, table } = useDecidedCourse()
  const whole = !table.assessments.some((a) => a.id === subject)
  const inComponent = table.components.some((c) => c.id === subject)
  const about = table.adjustments.filter(
    ({ on, assessmentId }) =>
      on &&
      (!whole
        ? assessmentId === subject
        : !inComponent || table.assessments.some((a) => a.id === assessmentId && a.componentId === subject)),
  )
  if (about.length === 0) return null
  return (
    <p className="small mb-1">
      <span className="ochre">As rescaled:</span> {counted(about.length, 'adjustment')} in force,{' '}
      <Link to={`/courses/${id}/rescale${whole ? '' : `?of=${subject}`}`}>see what {about.length === 1 ? 'it does' : 'they do'}</Link>
    </p>
  )
}
