import type { ReactNode } from 'react'
import { Form } from 'react-bootstrap'
import { useCourse } from '../../course/course'
import { OfSelect } from '../../parts/OfSelect'
import { today } from '../../parts/format'
import { WHOLE_COURSE } from '../../parts/of-what'
import { WriteProblem } from '../../saving/writes'
import { KINDS, type Kind, type ViewProps } from './kinds'

interface Props extends ViewProps {
  rows: Kind
  /** What is asked of these rows. */
  question: string
  /** Ways to take it out. */
  out?: ReactNode
  /** What else chooses what is shown, under the heading. */
  children?: ReactNode
}

/** The head of a comparison: what is asked, of which rows, in what. */
export function CompareHead({ rows, of, onShow, question, out, children }: Props) {
  const { table } = useCourse()
  return (
    <>
      <div className="stop-head">
        <h1>{question}</h1>
        <div className="end">
          <span className="soft">rows</span>
          <Form.Select size="sm" aria-label="Rows" value={rows} onChange={(e) => onShow({ rows: e.target.value as Kind })}>
            {KINDS.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </Form.Select>
          <span className="soft">in</span>
          <OfSelect table={table} value={of} whole={{ id: WHOLE_COURSE, title: 'the course' }} onChange={(id) => onShow({ of: id })} />
          {out}
        </div>
      </div>
      <p className="d-none d-print-block small">
        {table.head.code} {table.head.title}, {table.head.term} ·{' '}
        {[...table.assessments, ...table.components].find((x) => x.id === of)?.title ?? 'the course'} · {table.students.length} students ·{' '}
        {today()}
      </p>
      <WriteProblem />
      {children}
    </>
  )
}
