import { useQuery } from '@tanstack/react-query'
import { Button, Form } from 'react-bootstrap'
import { Link } from 'react-router'
import { agreeMark, type AgreeRule } from '#core/agree'
import { gradeAt } from '#core/bounds'
import { gradeCourse } from '#core/grades'
import { percentOf } from '#core/rescale'
import { criterionMaximum } from '#core/scales'
import { routes, type Assessment, type Library, type ScriptDetail } from '#contract'
import { call } from '../../api/client'
import { useCourse, useFigures } from '../../course/course'
import { useDraft } from '../../saving/drafts'
import { usePersonLabels } from '../../settings/names'
import { ReadingShape, readingColour } from '../../parts/ReadingsLine'
import { counted, fixed, numeral, typedNumber, shownAt } from '../../parts/format'
import { keepTyped, type QueueRow } from './queue'

interface Props {
  row: QueueRow
  assessment: Assessment
  onSettle: (rule: AgreeRule) => void
  onOpen: () => void
}

/** One script's readings side by side, criterion by criterion, and the ways to settle it. */
export function SettleCloseUp({ row, assessment, onSettle, onOpen }: Props) {
  const { id, table, mayDecide } = useCourse()
  const own = useFigures('student', row.studentId)
  const label = usePersonLabels(table.students)
  const detail = useQuery({
    queryKey: ['script', id, row.scriptId],
    queryFn: () => call(routes.script, { params: { courseId: id, scriptId: row.scriptId } }),
  })
  const library = useQuery({
    queryKey: ['library', id],
    queryFn: () => call(routes.library, { params: { courseId: id } }),
    staleTime: Infinity,
  })
  const [ownText, setOwn, dropOwn] = useDraft(`own mark ${row.scriptId}`)
  const [reason, setReason, dropReason] = useDraft(`own mark because ${row.scriptId}`)

  const gradeWith = (mark: number): string => {
    if (own?.studentId !== row.studentId) return ''
    const { course } = own
    const marks = course.marks.map((m) => (m.assessmentId === assessment.id ? { ...m, mark } : m))
    const student = gradeCourse({ ...course, marks }).students[0]!
    const percent = percentOf(student)
    return student.grade ?? (percent === null ? '' : `${gradeAt(percent, course.boundaries, course.policy.rounding) ?? ''} so far`)
  }
  const surname = (markerId: string) =>
    table.markers
      .find((m) => m.id === markerId)
      ?.name.split(' ')
      .at(-1) ?? markerId
  const options: { key: string; words: string; rule: AgreeRule }[] = [
    { key: 'M', words: 'mean', rule: { kind: 'mean' } },
    { key: 'D', words: 'median', rule: { kind: 'median' } },
    { key: 'H', words: 'highest', rule: { kind: 'highest' } },
    { key: 'L', words: 'lowest', rule: { kind: 'lowest' } },
    ...(row.typed === null ? [] : [{ key: 'T', words: 'typed', rule: keepTyped(row.typed) }]),
    ...row.readings
      .slice(0, 4)
      .map((r, i) => ({ key: String(i + 1), words: `${surname(r.markerId)}’s`, rule: { kind: 'senior' as const, markerId: r.markerId } })),
  ]
  const criteria = criteriaOf(library.data, assessment.standardId)
  // In the order of the queue, whatever order they come in.
  const readings = row.readings.map((r) => detail.data?.readings.find((d) => d.markerId === r.markerId))
  const ownMark = typedNumber(ownText)
  const ownWrong = ownText !== '' && (ownMark === null || ownMark < 0 || ownMark > assessment.outOf)
  return (
    <>
      <section>
        <h2>
          <Link to={`/courses/${id}/students/${row.studentId}`}>{label(row.studentId)}</Link>{' '}
          <span className="soft small fw-normal">spread {numeral(row.spread)}</span>
        </h2>
        <table className="grid criteria">
          <thead>
            <tr>
              <th>{criteria.length > 0 ? 'criterion' : ''}</th>
              {row.readings.map((r, i) => (
                <th className="num" key={r.markerId}>
                  <svg width="13" height="13" aria-hidden>
                    <ReadingShape nth={i} cx={6.5} cy={6.5} />
                  </svg>{' '}
                  {surname(r.markerId)}
                </th>
              ))}
              <th className="num">apart</th>
            </tr>
          </thead>
          <tbody>
            {criteria.map((c) => {
              const given = readings.map((r) => r?.picks[c.id])
              const known = given.filter((g) => g !== undefined)
              const apart = known.length > 1 ? Math.max(...known) - Math.min(...known) : null
              return (
                <tr key={c.id}>
                  <td>
                    {c.title} <span className="soft">{c.penalty ? 'takes off' : `of ${numeral(c.max)}`}</span>
                  </td>
                  {given.map((g, i) => (
                    <td className="num" key={i}>
                      {numeral(g)}
                    </td>
                  ))}
                  <td className={`num ${apart !== null && apart >= c.max * 0.3 ? 'ochre fw-semibold' : 'soft'}`}>{numeral(apart)}</td>
                </tr>
              )
            })}
            <tr className="fw-semibold">
              <td>of {numeral(assessment.outOf)}</td>
              {row.readings.map((r, i) => (
                <td className="num" key={r.markerId} style={{ color: readingColour(i) }}>
                  {numeral(r.mark)}
                  {readings[i]?.judgement && <span className="soft fw-normal small d-block">{readings[i].judgement}</span>}
                </td>
              ))}
              <td className={`num ${row.over ? 'ochre' : ''}`}>{numeral(row.spread)}</td>
            </tr>
          </tbody>
        </table>
        {readings.map(
          (r, i) =>
            r &&
            (r.comment || r.notes || r.afterSeeing || r.earlier.length > 0 || Object.values(r.criterionComments).some(Boolean)) && (
              <blockquote key={r.markerId} style={{ borderColor: readingColour(i) }}>
                <span dir="auto">{r.comment}</span>
                {Object.entries(r.criterionComments).map(
                  ([on, words]) =>
                    words && (
                      <p key={on} className="small mb-0" dir="auto">
                        <span className="soft">{criteria.find((c) => c.id === on)?.title ?? on}:</span> {words}
                      </p>
                    ),
                )}
                {r.notes && (
                  <p className="small mb-0" dir="auto">
                    <span className="soft">for markers:</span> {r.notes}
                  </p>
                )}
                <ReadingStates reading={r} />
              </blockquote>
            ),
        )}
      </section>
      {mayDecide && (
        <section>
          <h2>Settle by</h2>
          {row.typed !== null && (
            <p className="ochre">
              {numeral(row.typed)} was typed in the sheet, and {row.readings.length === 1 ? 'the reading says' : 'the readings say'}{' '}
              otherwise: no mark stands until you say which.
            </p>
          )}
          <div className="settle-options">
            {options.map((o) => {
              const { mark } = agreeMark(row.readings, o.rule, o.rule.kind === 'value' ? null : assessment.step)
              return (
                <button key={o.key} onClick={() => onSettle(o.rule)}>
                  <kbd>{o.key}</kbd> <span>{o.words}</span> <b className="num">{fixed(mark)}</b>{' '}
                  <span className="soft">{gradeWith(mark)}</span>
                </button>
              )
            })}
          </div>
          <Form
            className="own-mark"
            onKeyDown={(e) => e.key === 'Escape' && (document.activeElement as HTMLElement | null)?.blur()}
            onSubmit={(e) => {
              e.preventDefault()
              if (ownMark !== null && !ownWrong && reason.trim() !== '') {
                onSettle({ kind: 'value', mark: ownMark, reason: reason.trim() })
                dropOwn()
                dropReason()
                // Back to the queue, so that the next key settles the next script.
                ;(document.activeElement as HTMLElement | null)?.blur()
              }
            }}
          >
            <label htmlFor="own-mark" className="soft small">
              own mark <kbd>O</kbd>
            </label>
            <Form.Control
              id="own-mark"
              value={ownText}
              isInvalid={ownWrong}
              onChange={(e) => setOwn(e.target.value)}
              inputMode="decimal"
              style={{ width: 64 }}
            />
            <label htmlFor="own-reason" className="soft small">
              because
            </label>
            <Form.Control id="own-reason" value={reason} maxLength={2000} onChange={(e) => setReason(e.target.value)} />
            <Button type="submit" size="sm" variant="outline-primary" disabled={ownMark === null || ownWrong || reason.trim() === ''}>
              Settle
            </Button>
          </Form>
          {ownWrong && <p className="brick small">Give a mark from 0 to {numeral(assessment.outOf)}.</p>}
          {row.trying && (
            <Button variant="link" onClick={onOpen}>
              Leave it open again <kbd>Del</kbd>
            </Button>
          )}
        </section>
      )}
    </>
  )
}

/** How a reading came to be what it is: every state it was in, and what was changed after others' readings were seen. */
function ReadingStates({ reading: r }: { reading: ScriptDetail['readings'][number] }) {
  if (r.earlier.length === 0 && !r.afterSeeing) return null
  return (
    <div className="small">
      {r.afterSeeing && <b className="ochre">changed after seeing how others read it</b>}
      {r.earlier.length > 0 && (
        <details>
          <summary className="soft">{counted(r.earlier.length, 'earlier state')}</summary>
          <ul className="people">
            {r.earlier.map((e) => (
              <li key={e.replacedAt}>
                <span>
                  <b>{e.mark === null ? 'not all judged' : numeral(e.mark)}</b> {e.state}
                  {e.afterSeeing && <span className="ochre"> after seeing others</span>}
                </span>
                <span className="soft">until {shownAt(e.replacedAt, 'd MMM, HH:mm')}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  )
}

function criteriaOf(
  library: Library | undefined,
  standardId: string | null,
): { id: string; title: string; max: number; penalty: boolean }[] {
  const rubric = library?.rubrics.find((r) => r.id === standardId)
  if (rubric)
    return rubric.criteria.map((c) => ({
      id: c.id,
      title: c.title,
      penalty: c.penalty,
      max: criterionMaximum(c),
    }))
  const scheme = library?.schemes.find((s) => s.id === standardId)
  return scheme ? scheme.criteria.map((c) => ({ id: c.id, title: c.title, penalty: false, max: c.max })) : []
}
