import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { AgreeRule } from '#core/agree'
import { JudgedError, markSoFar } from '#core/marking'
import type { Picks } from '#core/scales'
import type { Assessment, ScriptDetail } from '#contract'
import { useDraft } from '../../saving/drafts'
import { numeral, pointsGiven, typedNumber } from '../../parts/format'
import { ReadingShape, readingColour } from '../../parts/ReadingsLine'
import type { QueueRow } from './queue-rows'
import { useCriteria, useStandard } from './useCriteria'
import styles from './reconcile.module.css'

interface Props {
  row: QueueRow
  assessment: Assessment
  readings: readonly (ScriptDetail['readings'][number] | undefined)[]
  surname: (markerId: string) => string
  /** Null for whoever only looks on. */
  onSettle: ((rule: AgreeRule) => void) | null
}

/** Share of a criterion's points from which on two readings of it are far apart. */
const FAR = 0.3

/** The readings criterion by criterion; a level is taken from either, or set, and the total follows. */
export function ByCriterion({ row, assessment, readings, surname, onSettle }: Props) {
  const criteria = useCriteria(assessment.standardId)
  const standard = useStandard(assessment.standardId)
  const [picking, setPicking] = useState(false)
  const [taken, setTaken] = useState<Picks>({})
  const [exact, setExact] = useState<Record<string, string>>({})
  const [reason, setReason, dropReason] = useDraft(`agreed by criterion because ${row.scriptId}`)
  // What all of them gave is agreed already.
  const agreed: Picks = Object.fromEntries(
    criteria.flatMap((c) => {
      const given = readings.map((r) => r?.picks[c.id])
      const same = given[0] !== undefined && given.every((g) => g === given[0])
      const typed = exact[c.id] ? typedNumber(exact[c.id]!) : null
      // What is taken off may be typed with its minus or without.
      const own = exact[c.id] ? typed && (c.penalty ? Math.abs(typed) : typed) : (taken[c.id] ?? (same ? given[0]! : null))
      return own === null || own === undefined ? [] : [[c.id, own]]
    }),
  )
  const { mark, wrong } = totalOf(agreed, standard, assessment)
  const open = criteria.filter((c) => agreed[c.id] === undefined).length
  return (
    <>
      <table className={`grid ${styles.criteria}`}>
        <thead>
          <tr>
            <th>{criteria.length > 0 ? 'criterion' : ''}</th>
            {row.readings.map((r, i) => (
              <th className="number" key={r.markerId}>
                <svg width="13" height="13" aria-hidden>
                  <ReadingShape nth={i} cx={6.5} cy={6.5} />
                </svg>{' '}
                {surname(r.markerId)}
              </th>
            ))}
            <th className="number">apart</th>
            {picking && <th className="number">agreed</th>}
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
                  <td className="number" key={i}>
                    {picking && g !== undefined ? (
                      <button
                        type="button"
                        className={styles.pick}
                        aria-pressed={agreed[c.id] === g && !exact[c.id]}
                        aria-label={`${c.title}: ${pointsGiven(c, g)}, as ${surname(row.readings[i]!.markerId)}`}
                        onClick={() => {
                          setTaken({ ...taken, [c.id]: g })
                          setExact({ ...exact, [c.id]: '' })
                        }}
                      >
                        {pointsGiven(c, g)}
                      </button>
                    ) : (
                      pointsGiven(c, g)
                    )}
                  </td>
                ))}
                <td className={`number ${apart !== null && apart >= c.max * FAR ? 'ochre fw-semibold' : 'soft'}`}>{numeral(apart)}</td>
                {picking && (
                  <td className="number">
                    <Form.Control
                      size="sm"
                      className={`${styles.exact} number`}
                      inputMode="decimal"
                      aria-label={`${c.title}, agreed`}
                      value={exact[c.id] ?? ''}
                      placeholder={pointsGiven(c, agreed[c.id])}
                      onChange={(e) => setExact({ ...exact, [c.id]: e.target.value })}
                    />
                  </td>
                )}
              </tr>
            )
          })}
          <tr className="fw-semibold">
            <td>of {numeral(assessment.outOf)}</td>
            {row.readings.map((r, i) => (
              <td className="number" key={r.markerId} style={{ color: readingColour(i) }}>
                {numeral(r.mark)}
                {readings[i]?.judgement && <span className="soft fw-normal small d-block">{readings[i].judgement}</span>}
              </td>
            ))}
            <td className={`number ${row.over ? 'ochre' : ''}`}>{numeral(row.spread)}</td>
            {picking && (
              <td className="number" aria-live="polite">
                {numeral(mark)}
              </td>
            )}
          </tr>
        </tbody>
      </table>
      {onSettle && criteria.length > 0 && !picking && (
        <button className="quiet-button mt-1" onClick={() => setPicking(true)}>
          Agree criterion by criterion
        </button>
      )}
      {onSettle && picking && (
        <Form
          className={styles.own}
          onSubmit={(e) => {
            e.preventDefault()
            if (mark === null) return
            onSettle({ kind: 'criteria', picks: agreed, mark, reason: reason.trim() })
            setPicking(false)
            dropReason()
            ;(document.activeElement as HTMLElement | null)?.blur()
          }}
        >
          <label htmlFor="criteria-reason" className="soft small">
            because
          </label>
          <Form.Control id="criteria-reason" value={reason} maxLength={2000} onChange={(e) => setReason(e.target.value)} />
          <Button type="submit" size="sm" variant="outline-primary" disabled={mark === null}>
            Settle
          </Button>
          <Button variant="link" size="sm" className="text-nowrap" onClick={() => setPicking(false)}>
            Not so
          </Button>
        </Form>
      )}
      {picking && (
        <p className={`small mb-0 ${wrong ? 'brick' : 'soft'}`} role="status">
          {wrong ?? (open > 0 ? `${open} to agree on: take a level from either, or type the points.` : 'All agreed.')}
        </p>
      )}
    </>
  )
}

/** What agreed points come to; null while one is missing, with what is wrong with those that there are. */
function totalOf(
  picks: Picks,
  standard: ReturnType<typeof useStandard>,
  { outOf }: Assessment,
): { mark: number | null; wrong: string | null } {
  if (!standard) return { mark: null, wrong: null }
  try {
    return { mark: markSoFar({ picks, judgement: null, mark: null }, { standard, outOf }), wrong: null }
  } catch (e) {
    if (e instanceof JudgedError) return { mark: null, wrong: e.message }
    throw e
  }
}
