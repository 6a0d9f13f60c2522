import { useEffect, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import type { DeskScript, Judged } from '#contract'
import { useKeys } from '../../../settings/keys'
import { useLooking } from '../../../session/look'
import { useUndo } from '../../../saving/undo'
import { counted, numeral } from '../../../parts/format'
import { focusable, Judge } from '../../../parts/judge/Judge'
import { levelAt, markFor, NOTHING_JUDGED, unjudged } from '../../../parts/judge/judged'
import { WhichStands } from '../../../parts/WhichStands'
import { Between } from './Between'
import { Comments } from './Comments'
import { CriterionComment } from './CriterionComment'
import { Others } from './Others'
import { ScriptShown } from './ScriptShown'
import { useReading } from './useReading'
import styles from './desk.module.css'

/** A script and one's reading of it. */
export function DeskScriptView({ courseId, script, onDone }: { courseId: string; script: DeskScript; onDone: () => void }) {
  const reading = useReading(courseId, script)
  const { body, state, edit } = reading
  const { standard, assessment } = script
  const [asked, setAsked] = useState(false)
  const [seenSaid, setSeenSaid] = useState(false)
  const rulers = useRef<HTMLDivElement>(null)
  const handedIn = state === 'handed in'
  const looking = useLooking()
  const fixed = handedIn || looking
  const gaps = unjudged(standard, body.judged)
  const mark = markFor(standard, body.judged, assessment.outOf)

  useEffect(() => {
    if (rulers.current) focusable(rulers.current)?.focus({ preventScroll: true })
  }, [])

  /** What a reading comes to; how much is judged where that is not to be told yet. */
  const howFar = (judged: Judged): string => {
    const comesTo = assessment.use.hidePoints ? null : markFor(standard, judged, assessment.outOf)
    const all = unjudged(standard, NOTHING_JUDGED).length
    return comesTo === null ? `${all - unjudged(standard, judged).length} of ${all} are judged` : `it comes to ${numeral(comesTo)}`
  }
  const latest = useRef(reading)
  latest.current = reading
  const { did } = useUndo()
  /** Steps of this script, which end with it: what is undone must be in sight. */
  const steps = useRef<(() => void)[]>([])
  useEffect(() => () => steps.current.forEach((forget) => forget()), [])
  const judge = (judged: Judged) => {
    setAsked(false)
    const turn = (from: Judged, to: Judged) => {
      const { body: now } = latest.current
      latest.current.edit({ ...now, judged: to, criterionComments: withPreset(script, from, to, now.criterionComments) })
    }
    const was = body.judged
    turn(was, judged)
    steps.current.push(did({ label: `judgement of ${script.label}`, undo: () => turn(judged, was), redo: () => turn(was, judged) }))
  }
  const handIn = async () => {
    // A gap is asked about once; where nothing can follow from it there is nothing to ask.
    const mayGap = standard?.kind === 'rubric' || standard?.kind === 'scheme'
    if (gaps.length > 0 && (!mayGap || !asked)) return setAsked(true)
    if (await reading.handIn(gaps.length > 0)) onDone()
  }
  const takeBack = () => {
    if (script.seen && !seenSaid) return setSeenSaid(true)
    void reading.takeBack(script.seen)
  }
  useKeys(
    fixed
      ? []
      : [
          { key: 'Ctrl+Enter', does: 'hand in, and on to the next', inFields: true, run: () => void handIn() },
          { key: 'ArrowUp / ArrowDown', does: 'the criterion before, the next one; after the last, handing in' },
          { key: 'ArrowLeft / ArrowRight', does: 'the level to the left, to the right' },
          { key: '1 … 9', does: 'that level, and on to the next criterion; on a scale of points, the label with that number' },
          { key: '+ / -', does: 'half a point more or less, inside a level that has a range' },
          { key: 'Enter', does: 'on to the next criterion' },
          { key: 'Backspace', does: 'not judged again' },
        ],
  )

  return (
    <div className={`${styles.deskBody} ${script.attempts.length === 0 ? styles.onPaper : ''}`}>
      <section className={styles.deskRulers} ref={rulers} aria-label="Your reading">
        <div className={styles.deskScroll}>
          {script.before && !handedIn && (
            <p className="note" role="note">
              The student handed in anew. Your reading of attempt {script.before.attempt}
              {script.before.mark !== null && (
                <>
                  , <b>{numeral(script.before.mark)}</b>,
                </>
              )}{' '}
              stands until you hand in this one, which starts from it.
            </p>
          )}
          <Judge
            standard={standard}
            completion={assessment.marking === 'completion'}
            outOf={assessment.outOf}
            use={assessment.use}
            judged={body.judged}
            onChange={fixed ? undefined : judge}
            below={
              assessment.use.criterionComments && standard && standard.kind !== 'scale'
                ? (id, title) => (
                    <CriterionComment
                      title={title}
                      words={body.criterionComments[id] ?? ''}
                      disabled={fixed}
                      onChange={(words) => edit({ ...body, criterionComments: { ...body.criterionComments, [id]: words } })}
                    />
                  )
                : undefined
            }
          />
          {standard?.kind === 'scale' &&
            assessment.use.noteOn.map((title) => (
              <label key={title} className={styles.noteOn}>
                <span className="soft small">{title}</span>
                <textarea
                  className="words-field"
                  rows={1}
                  maxLength={10_000}
                  dir="auto"
                  disabled={fixed}
                  value={body.criterionComments[title] ?? ''}
                  onChange={(e) => edit({ ...body, criterionComments: { ...body.criterionComments, [title]: e.target.value } })}
                />
              </label>
            ))}
          <Comments courseId={courseId} body={body} disabled={fixed} onChange={edit} />
          {script.others.length > 0 && <Others others={script.others} standard={standard} />}
          {script.between && handedIn && !looking && (
            <Between courseId={courseId} script={script} between={script.between} own={reading.mark} />
          )}
        </div>
        {reading.clash && (
          <WhichStands onSettle={reading.settleClash}>
            You changed this reading in another window. There {howFar(reading.clash.judged)}, here {howFar(body.judged)}.
          </WhichStands>
        )}
        {reading.problem && (
          <p className="note bad" role="alert">
            {reading.problem}
            {reading.waitsToBeHandedIn && ' It is handed in as soon as the server is back.'}
          </p>
        )}
        <div className={`judge-end ${styles.deskEnd}`}>
          <span aria-live="polite">
            {handedIn ? (
              <>
                Handed in
                {reading.mark !== null && (
                  <>
                    : <MarkInWords mark={reading.mark} assessment={assessment} />
                  </>
                )}
              </>
            ) : gaps.length > 0 ? (
              <span className="ochre small">
                {asked ? `Not judged: ${gaps.join(', ')}. ` : `${counted(gaps.length, 'thing')} not judged yet`}
                {asked &&
                  (standard?.kind === 'rubric' || standard?.kind === 'scheme') &&
                  'Hand it in again to leave the gap: it gives nothing.'}
                {asked && standard?.kind === 'scale' && 'No mark is given until the judgement is.'}
              </span>
            ) : assessment.use.hidePoints ? (
              'All judged.'
            ) : (
              <MarkInWords mark={mark} assessment={assessment} />
            )}
          </span>
          {looking ? null : handedIn ? (
            script.fixed ? (
              <span className="soft small">{script.fixed}</span>
            ) : (
              <>
                {seenSaid && (
                  <span className="ochre small" role="status">
                    You have seen how others read it: the lead sees what you change after that.
                  </span>
                )}
                <Button variant="outline-primary" onClick={takeBack}>
                  {seenSaid ? 'Take it back all the same' : 'Take it back'}
                </Button>
              </>
            )
          ) : (
            <Button data-after-judging onClick={() => void handIn()}>
              Hand in, next <kbd>Ctrl ↵</kbd>
            </Button>
          )}
        </div>
      </section>
      <ScriptShown courseId={courseId} script={script} />
    </div>
  )
}

function MarkInWords({ mark, assessment: { marking, outOf } }: { mark: number | null; assessment: DeskScript['assessment'] }) {
  if (marking === 'completion' && mark !== null) return <b>{mark > 0 ? 'done' : 'not done'}</b>
  return (
    <>
      <b>{numeral(mark)}</b> of {numeral(outOf)}
    </>
  )
}

/** A level that has a comment kept ready puts it in, unless something else is written there. */
function withPreset(script: DeskScript, before: Judged, after: Judged, comments: Record<string, string>): Record<string, string> {
  const { standard } = script
  if (standard?.kind !== 'rubric' || !script.assessment.use.criterionComments) return comments
  const presetAt = (id: string, points: number | undefined) => {
    const at = points === undefined ? null : levelAt(standard, id, points)
    return at === null ? '' : (standard.body.criteria.find((c) => c.id === id)?.levels[at]?.comment ?? '')
  }
  const next = { ...comments }
  for (const { id } of standard.body.criteria) {
    if (before.picks[id] === after.picks[id]) continue
    const written = comments[id] ?? ''
    if (written === '' || written === presetAt(id, before.picks[id])) next[id] = presetAt(id, after.picks[id])
  }
  return next
}
