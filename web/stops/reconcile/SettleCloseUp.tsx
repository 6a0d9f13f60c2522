import { useQuery } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { Link } from 'react-router'
import { agreeMark, type AgreeRule } from '#core/agree'
import { routes, type AgreedBetween, type AskedReading, type Assessment, type Question } from '#contract'
import { call } from '../../api/client'
import { useDecidedCourse, useFigures } from '../../course/course'
import { useDraft } from '../../saving/drafts'
import { usePersonLabels } from '../../settings/names'
import { fixed, numeral, signed, typedNumber } from '../../parts/format'
import { shortNames } from '../../parts/short-names'
import { NotesOn } from '../../parts/NotesOn'
import { Attempts } from '../../parts/script/Attempts'
import { BetweenThem } from './BetweenThem'
import { ByCriterion } from './ByCriterion'
import { agreedBetween, isAgreed } from './between'
import { keepTyped } from './queue'
import type { QueueRow } from './queue-rows'
import { Remarks } from './Remarks'
import { Said } from '../../parts/Said'
import { Waiting } from './Waiting'
import styles from './reconcile.module.css'
import { KeyCap } from '../../settings/KeyCap'

interface Props {
  row: QueueRow
  assessment: Assessment
  /** How its readers lean; null where that cannot be told of all of them. */
  leans: Record<string, number> | null
  /** What its two readers proposed to each other; null where they did not. */
  between: AgreedBetween | null
  /** All that its readers said to each other. */
  said: readonly AgreedBetween[]
  /** What its student asked about it and nobody answered. */
  questions: readonly Question[]
  /** Readings of it that were asked for. */
  asked: readonly AskedReading[]
  onSettle: (rule: AgreeRule) => void
  onOpen: () => void
  onAsk: () => void
}

interface Way {
  key: string
  words: string
  rule: AgreeRule
}

/** One script's readings side by side, criterion by criterion, with the work itself, and the ways to settle it. */
export function SettleCloseUp({ row, assessment, leans, between, said, questions, asked, onSettle, onOpen, onAsk }: Props) {
  const { id, table, mayDecide } = useDecidedCourse()
  const label = usePersonLabels(table.students)
  const detail = useQuery({
    queryKey: ['script', id, row.scriptId],
    queryFn: () => call(routes.script, { params: { courseId: id, scriptId: row.scriptId } }),
  })
  const [ownText, setOwn, dropOwn] = useDraft(`own mark ${row.scriptId}`)
  const [reason, setReason, dropReason] = useDraft(`own mark because ${row.scriptId}`)
  const [opened, setOpened] = useState(false)
  const surname = useMemo(() => shortNames(table.markers), [table.markers])
  const ways: Way[] = [
    { key: 'm', words: 'mean', rule: { kind: 'mean' } },
    ...(leans ? [{ key: 'v', words: 'levelled', rule: { kind: 'levelled' as const, leans, outOf: assessment.outOf } }] : []),
    ...(between
      ? [
          {
            key: 'e',
            words: isAgreed(between) ? 'between them' : `as ${between.by.split(' ').at(-1)} proposed`,
            rule: agreedBetween(between),
          },
        ]
      : []),
    { key: 'd', words: 'median', rule: { kind: 'median' } },
    { key: 'h', words: 'highest', rule: { kind: 'highest' } },
    { key: 'l', words: 'lowest', rule: { kind: 'lowest' } },
    ...(row.typed === null ? [] : [{ key: 't', words: 'typed', rule: keepTyped(row.typed) }]),
    ...row.readings
      .slice(0, 4)
      .map((r, i) => ({ key: String(i + 1), words: `${surname(r.markerId)}’s`, rule: { kind: 'senior' as const, markerId: r.markerId } })),
  ]
  const marks = ways.map((w) => agreeMark(row.readings, w.rule, w.rule.kind === 'value' ? null : assessment.step).mark)
  const ownMark = typedNumber(ownText)
  const ownWrong = ownText !== '' && (ownMark === null || ownMark < 0 || ownMark > assessment.outOf)
  const asks = ownMark === null || ownWrong ? marks : [...marks, ownMark]
  const grades = useFigures('gradesIf', row.scriptId, asks)
  const gradeOf = (i: number): string => {
    const own = grades?.scriptId === row.scriptId ? grades.grades[i] : undefined
    if (!own?.grade) return ''
    // Where it is rescaled, what counts is another mark than the one agreed.
    const rescaled = Math.abs(own.mark - asks[i]!) > 1e-9 ? `${numeral(own.mark)}, ` : ''
    return `${rescaled}${own.grade}${own.soFar ? ' so far' : ''}`
  }
  // In the order of the queue, whatever order they come in.
  const readings = useMemo(
    () => row.readings.map((r) => detail.data?.readings.find((d) => d.markerId === r.markerId)),
    [row.readings, detail.data],
  )
  return (
    <>
      {questions.map((q) => (
        <blockquote key={q.id} className="note">
          <Link to="?part=asked">Its student asks</Link>
          {q.about && ` about ${q.about}`}: <span dir="auto">{q.reason}</span>
        </blockquote>
      ))}
      <section>
        <h2>
          <Link to={`/courses/${id}/students/${row.studentId}`}>{label(row.studentId)}</Link>{' '}
          <span className="soft small fw-normal">spread {numeral(row.spread)}</span>
        </h2>
        <ByCriterion row={row} assessment={assessment} readings={readings} surname={surname} onSettle={mayDecide ? onSettle : null} />
        <Remarks readings={readings} standardId={assessment.standardId} />
        {detail.data && detail.data.attempts.length > 0 && (
          <>
            <button className="quiet-button mt-2" aria-expanded={opened} onClick={() => setOpened((was) => !was)}>
              {opened ? 'Close the script' : 'Open the script'}
            </button>
            {opened && (
              <div className={styles.work}>
                <Attempts courseId={id} assessmentId={assessment.id} studentId={row.studentId} attempts={detail.data.attempts} />
              </div>
            )}
          </>
        )}
      </section>
      <Said words={detail.data?.words ?? []} outOf={assessment.outOf} />
      {mayDecide && (
        <section>
          <h2>Settle by</h2>
          {row.typed !== null && (
            <p className="ochre">
              {numeral(row.typed)} was typed in the sheet, and {row.readings.length === 1 ? 'the reading says' : 'the readings say'}{' '}
              otherwise: no mark stands until you say which.
            </p>
          )}
          <BetweenThem said={said} />
          <div className={styles.options}>
            {ways.map((o, i) => (
              <button
                key={o.key}
                onClick={() => onSettle(o.rule)}
                title={o.rule.kind === 'levelled' ? leansInWords(o.rule.leans, surname) : undefined}
              >
                <KeyCap cap={o.key} /> <span>{o.words}</span> <b className="number">{fixed(marks[i])}</b>{' '}
                <span className="soft">{gradeOf(i)}</span>
              </button>
            ))}
          </div>
          <Form
            className={styles.own}
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
              own mark <KeyCap cap="o" />
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
          {!ownWrong && asks.length > marks.length && <p className="soft small mb-0">That would be {gradeOf(marks.length)}.</p>}
          {(row.trying || (row.agreed !== null && !row.ruled)) && (
            <Button variant="link" className="px-0" onClick={onOpen}>
              {row.trying ? 'Leave it as it was' : 'Open it again'} <kbd>Del</kbd>
            </Button>
          )}
        </section>
      )}
      <Waiting courseId={id} asked={asked} onAsk={mayDecide ? onAsk : null} />
      <NotesOn about={{ kind: 'script', id: row.scriptId, assessmentId: assessment.id }} />
    </>
  )
}

const leansInWords = (leans: Record<string, number>, surname: (id: string) => string): string =>
  `the mean of the readings less how their markers lean: ${Object.entries(leans)
    .map(([id, lean]) => `${surname(id)} ${signed(lean)}`)
    .join(', ')}`
