import { useEffect, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { routes, type Exemplar, type Exemplars, type Judged } from '#contract'
import { useLooking } from '../../../session/look'
import { useKeys } from '../../../settings/keys'
import { ask } from '../../../saving/ask'
import { useWrites } from '../../../saving/writes'
import { numeral, signed } from '../../../parts/format'
import { Judge } from '../../../parts/judge/Judge'
import { markFor, NOTHING_JUDGED, unjudged } from '../../../parts/judge/judged'
import { KeyCap } from '../../../settings/KeyCap'
import styles from '../agree.module.css'

interface Props {
  courseId: string
  exemplars: Exemplars
  exemplar: Exemplar
  /** A marker whose reading stands beside what was agreed. */
  reading: NonNullable<Exemplars['markers']>[number] | null
  onEdit: (() => void) | null
  /** Told when it is handed in, so that it stays on screen with what was agreed. */
  onRead: () => void
  /** Whether it is read as the next one after another. */
  begins: boolean
  /** To the next one that is not read; null where there is none. */
  onNext: (() => void) | null
  /** Whether this person reads it themselves. */
  marks: boolean
}

const SHOWN = { nothing: 'not shown to students', mark: 'students see its mark', levels: 'students see its mark, the levels and why' }

/** An exemplar: the script, and beside it the rulers, to be read unseen or with what was agreed on them. */
export function ExemplarDesk({ courseId, exemplars, exemplar: x, reading, onEdit, onRead, onNext, begins, marks }: Props) {
  const { write } = useWrites()
  const text = useRef<HTMLElement>(null)
  // Somebody who goes on to the next one begins with its words.
  useEffect(() => {
    if (begins) text.current?.focus()
  }, [begins])
  const [judged, setJudged] = useState<Judged>(NOTHING_JUDGED)
  const { standard, assessment } = exemplars
  const reads = marks && x.agreed === null
  const looking = useLooking()
  const mark = markFor(standard, judged, assessment.outOf)
  const gaps = unjudged(standard, judged)
  const handIn = () => {
    if (gaps.length > 0) return
    onRead()
    void write(`read ${x.label}`, ask(routes.readExemplar, { params: { courseId, exemplarId: x.id }, body: judged }))
  }
  useKeys(reads ? [{ key: 'Ctrl+Enter', does: 'hand the reading in', inFields: true, run: handIn }] : [])
  const theirs = reading?.readings.find((r) => r.exemplarId === x.id) ?? null
  const own = theirs ?? x.own
  const whose = reading ? reading.name : 'you'
  const apart = x.agreed && own ? own.mark - x.agreed.mark : null
  // What is hidden while one marks stays hidden here: it is not sent.
  const use = marks ? assessment.use : { hidePoints: false, hideWords: false }
  return (
    <div className={styles.exemplar}>
      <article ref={text} className="script-text" aria-label={x.label} tabIndex={0} dir="auto">
        {x.text}
      </article>
      <div className="exemplar-judged">
        {reads ? (
          <>
            <Judge standard={standard} outOf={assessment.outOf} use={use} judged={judged} onChange={looking ? undefined : setJudged} />
            <div className="judge-end">
              <span>
                {gaps.length > 0 ? (
                  <span className="ochre small">Not judged yet: {gaps.join(', ')}</span>
                ) : use.hidePoints ? (
                  'All judged.'
                ) : (
                  <>
                    <b>{numeral(mark)}</b> of {numeral(assessment.outOf)}
                  </>
                )}
              </span>
              <Button data-after-judging disabled={looking || gaps.length > 0} onClick={handIn}>
                Hand it in <kbd>Ctrl ↵</kbd>
              </Button>
            </div>
            <p className="soft small">
              You see what was agreed, and how far you are from it, once you have handed in. Others never see what you give here; the lead
              does.
            </p>
          </>
        ) : (
          x.agreed && (
            <>
              <p className="agreed-line">
                Agreed <b>{numeral(x.agreed.mark)}</b> of {numeral(assessment.outOf)}
                {own && apart !== null && (
                  <>
                    ; {whose} gave <b>{numeral(own.mark)}</b>{' '}
                    <span className={Math.abs(apart) > assessment.tolerance ? 'ochre' : 'soft'}>
                      ({apart === 0 ? 'the same' : signed(apart, 2).replace(/\.?0+$/, '')})
                    </span>
                  </>
                )}
                {reading && !theirs && <span className="soft">; {reading.name} has not read it</span>}
                {onEdit && (
                  <button className="quiet-button float-end" onClick={onEdit}>
                    edit
                  </button>
                )}
              </p>
              <blockquote className="reasons" dir="auto">
                {x.agreed.note}
              </blockquote>
              <Judge
                standard={standard}
                outOf={assessment.outOf}
                use={use}
                judged={own ?? x.agreed}
                compared={own ? { judged: x.agreed, whose: 'agreed' } : undefined}
              />
              {onNext && (
                <Button className="mt-3" onClick={onNext}>
                  Read the next one <KeyCap cap="j" />
                </Button>
              )}
              <p className="soft small mt-2">
                {own ? 'The bubble is what was given, the long tick what was agreed. ' : 'The bubble is what was agreed. '}
                {onEdit && SHOWN[x.shown]}
              </p>
            </>
          )
        )}
      </div>
    </div>
  )
}
