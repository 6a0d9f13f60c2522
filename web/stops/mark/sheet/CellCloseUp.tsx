import { useQuery, useQueryClient } from '@tanstack/react-query'
import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import { writeCellText } from '#core/exchange/cell-text'
import { STATUSES } from '#core/grades'
import { withStatus } from '#core/marking'
import { daysLateOn, shiftDay } from '#core/roll'
import { scaleLabel } from '#core/scales'
import { sightOf } from '#core/roles'
import { routes, type Cell, type CourseHead, type SheetByCell } from '#contract'
import { call } from '../../../api/client'
import { NumberField } from '../../../parts/NumberField'
import { useRested } from '../../../parts/useRested'
import { counted, numeral, shownAt } from '../../../parts/format'
import type { CellValue } from '#core/marking'
import { markOf } from './cell-shown'
import { RemarkField } from './RemarkField'
import type { CellEdit, Refused } from './cell-queue'
import { DateField } from '../../../parts/DateField'

interface Props {
  courseId: string
  student: { id: string; label: string; candidate: string }
  assessment: SheetByCell['assessments'][number]
  cell: Cell | null
  value: CellValue
  /** What its mark counts as where it is rescaled. */
  countsAs: number | null
  /** The day it is due; null where none is set. */
  due: string | null
  fault: string | null
  /** Somebody else changed the cell while this was typed: both are shown. */
  clash: Refused | null
  writable: boolean
  onSet: (value: CellValue) => void
  onFill: () => void
  /** What waits to be sent of the remark. */
  remarkWaiting: string | undefined
  onRemark: (words: string, before: string) => void
  onMine: (typed: CellEdit) => void
  onTheirs: () => void
}

const MEANS: Record<(typeof STATUSES)[number], string> = {
  in: 'handed in on time; without a mark it is pending',
  late: 'handed in late: the late rule is applied to its mark',
  missing: 'never came: counted as the policy says',
  absent: 'was not there: waits or counts as the policy says',
  exempt: 'does not apply to this student',
  held: 'held back: pending, whatever its mark',
}

/** One cell in depth: its status, what that means, and every earlier state. */
export function CellCloseUp({
  courseId,
  student,
  assessment,
  cell,
  value,
  countsAs,
  due,
  fault,
  clash,
  writable,
  onSet,
  onFill,
  remarkWaiting,
  onRemark,
  onMine,
  onTheirs,
}: Props) {
  const queries = useQueryClient()
  const role = queries.getQueryData<CourseHead[]>(['courses'])?.find((c) => c.id === courseId)?.role
  const here = `${student.id} ${assessment.id}`
  const rested = useRested(here) === here
  const states = useQuery({
    queryKey: ['cell', courseId, student.id, assessment.id, cell?.version],
    queryFn: () => call(routes.cellStates, { params: { courseId, studentId: student.id, assessmentId: assessment.id } }),
    enabled: !!cell && cell.version > 0 && rested,
  })
  // A cell of which nothing is recorded has no remark either.
  const kept = !cell || cell.version === 0 ? '' : states.data ? (states.data.find((s) => s.remark !== null)?.remark ?? '') : null
  const mark = markOf(value, cell)
  return (
    <>
      <section>
        <h2>{assessment.title}</h2>
        <p>
          {!sightOf(role).oversees ? student.label : <Link to={`/courses/${courseId}/students/${student.id}`}>{student.label}</Link>}{' '}
          <span className="soft">{student.candidate}</span>
        </p>
        {clash && (
          <div className="note bad" role="alert">
            <p className="mb-1">
              You typed <b>{writeCellText(clash.typed) || 'a blank'}</b>; meanwhile somebody put{' '}
              <b>{(clash.current && writeCellText(clash.current)) || 'a blank'}</b> there.
            </p>
            <span className="buttons">
              <Button size="sm" variant="outline-primary" onClick={() => onMine(clash.typed)}>
                Put mine there
              </Button>
              <Button size="sm" variant="outline-primary" onClick={onTheirs}>
                Leave theirs
              </Button>
            </span>
          </div>
        )}
        {fault && !clash && (
          <p className="note bad" role="alert">
            Not saved: {fault}
          </p>
        )}
        <p className="fs-5 serif">
          {mark !== null ? numeral(mark) : cell?.fromReadings ? 'readings not settled' : 'no mark'}{' '}
          <span className="soft small">
            of {numeral(assessment.outOf)}
            {assessment.labels &&
              mark !== null &&
              `, ${scaleLabel({ labels: assessment.labels }, (mark / assessment.outOf) * 100) ?? 'below every label'}`}
          </span>
        </p>
        {countsAs !== null && (
          <p>
            Counts as <b>{numeral(countsAs)}</b>, as it was <Link to={`/courses/${courseId}/rescale`}>rescaled</Link>.
          </p>
        )}
        {assessment.byStanding !== null && (
          <p className="soft">Marked by where the student stands on “{assessment.byStanding}”: it follows their results.</p>
        )}
        <div className="words-choice" role="group" aria-label="Status">
          {STATUSES.map((s) => (
            <button
              key={s}
              aria-pressed={value.status === s}
              disabled={!writable}
              title={MEANS[s]}
              onClick={() => onSet(withStatus(value, s, Math.max(1, value.daysLate)))}
            >
              {s === 'in' ? 'on time' : s}
            </button>
          ))}
        </div>
        <p className="soft small mt-2">{MEANS[value.status]}</p>
        {value.status === 'late' && (
          <div className="d-flex align-items-center gap-2">
            <span className="soft text-nowrap">days late</span>
            <NumberField
              label="Days late"
              value={value.daysLate}
              min={0}
              max={366}
              disabled={!writable}
              className="short"
              onCommit={(d) => d !== null && onSet({ ...value, daysLate: Math.round(d) })}
            />
            {due !== null && (
              <>
                <span className="soft text-nowrap">or came</span>
                <DateField
                  label="The day it came"
                  value={shiftDay(due, value.daysLate)}
                  min={shiftDay(due, 1)}
                  disabled={!writable}
                  onCommit={(day) => day !== '' && onSet({ ...value, daysLate: Math.min(366, daysLateOn(due, day)) })}
                />
              </>
            )}
          </div>
        )}
        {writable && (value.mark !== null || value.status !== 'in') && (
          <button className="quiet-button small" onClick={onFill}>
            fill the blanks beneath with it <kbd>Ctrl D</kbd>
          </button>
        )}
        <RemarkField
          key={`${student.id} ${assessment.id}`}
          remark={remarkWaiting ?? kept}
          writable={writable && !cell?.fromReadings && assessment.byStanding === null && !assessment.blind}
          removable={writable}
          onRemark={onRemark}
        />
        {cell?.fromReadings && sightOf(role).readings === 'all' && (
          <p>
            {counted(cell.fromReadings.readings, 'reading')}.{' '}
            {cell.fromReadings.readings > 1 && <Link to={`/courses/${courseId}/reconcile`}>See them at Reconcile</Link>}
          </p>
        )}
      </section>
      {states.data && states.data.length > 0 && (
        <section>
          <h2>How it came to be</h2>
          <ul className="people small">
            {states.data.map((h, i, all) => (
              <li key={`${h.at} ${i}`}>
                <span>
                  {h.remark !== null && all[i + 1] && writeCellText(all[i + 1]!) === writeCellText(h) ? (
                    <b>{h.remark === '' ? 'remark taken away' : 'remark written'}</b>
                  ) : (
                    <>
                      {all[i + 1] && <span className="soft">{writeCellText(all[i + 1]!) || 'blank'} → </span>}
                      <b>{writeCellText(h) || 'blank'}</b>
                      {h.remark && ' and a remark'}
                    </>
                  )}{' '}
                  by {h.by}
                </span>
                <span className="soft">{shownAt(h.at, 'd MMM, HH:mm')}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section className="soft small">
        <h3>Typing</h3>
        Type a mark and press Enter. <b>m</b> missing, <b>a</b> absent, <b>e</b> exempt, <b>h</b> held; <b>17 late 2</b> is 17, two days
        late; <b>17 late 24 Nov</b> reckons the days from the day it was due. Delete clears. A block copied from any spreadsheet can be
        pasted. A blank is pending, never a zero.
        {assessment.labels && ` Here a label can be typed as well: ${assessment.labels.map((l) => l.label).join(', ')}.`}
      </section>
    </>
  )
}
