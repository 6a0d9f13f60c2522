import { memo, useMemo, useState } from 'react'
import { Button } from 'react-bootstrap'
import { Link } from 'react-router'
import { meanOf } from '#core/compare'
import { countsOfTable } from '#core/grades'
import { movesInWords, movesOf } from '#core/rescale'
import { trialInWords, type GradedColumns } from '#core/trial'
import { GradeStrip } from '../parts/GradeStrip'
import { peopleOf, type StripPeople } from '../parts/strip-people'
import { WhichStands } from '../parts/WhichStands'
import { counted, fixed } from '../parts/format'
import { useCourseAtHorizon } from '../course/course'
import { useKeys } from '../settings/keys'
import { KeyCap } from '../settings/KeyCap'
import styles from './horizon.module.css'

/** Where the final grades stand, on every stop; during a trial also who would move. */
export default function Horizon({ onAdopt }: { onAdopt: () => void }) {
  const { graded, trial, discard, clash, settleClash, id } = useCourseAtHorizon()
  const { current, adopted } = graded
  const [folded, setFolded] = useState(false)
  const open = trial.changes.length > 0
  useKeys([{ key: 'f', does: 'fold or unfold the horizon', run: () => setFolded((f) => !f) }])
  const people = useMemo(() => peopleOf(current), [current])
  const figures = useMemo(() => {
    const finals = people.final.filter((f) => f === 1).length
    return { finals, mean: meanOf(people.value), isSoFar: finals < people.value.length }
  }, [people])

  const asked = clash && (
    <div className={styles.clash}>
      <WhichStands onSettle={settleClash}>
        You changed the trial in another window: {trialInWords(clash)} there, {trialInWords(trial.changes)} here.
      </WhichStands>
    </div>
  )
  return (
    <footer className={`${styles.horizon} ${folded ? styles.folded : ''}`} aria-label="Where it stands">
      <div>
        {!folded && (
          <div className={styles.heading}>
            <h2>Where it stands</h2>
            <button className={styles.fold} onClick={() => setFolded(true)}>
              fold <KeyCap cap="f" />
            </button>
          </div>
        )}
        <div className={styles.figures}>
          <span>
            {figures.finals} of {current.plan.studentIds.length} final
          </span>
          <span>
            mean {fixed(figures.mean)}
            {figures.isSoFar && ' so far'}
          </span>
        </div>
      </div>
      {folded ? (
        <button className={`${styles.fold} text-start`} onClick={() => setFolded(false)}>
          unfold the horizon <KeyCap cap="f" />
        </button>
      ) : (
        <Strip people={people} current={current} ghost={open ? adopted : null} />
      )}
      <div className={styles.says}>
        <span role="status" aria-live="polite">
          {open ? <TrialWords /> : <span className="soft">No trial open</span>}
        </span>
        {open ? (
          <span className="text-nowrap">
            <Button size="sm" onClick={onAdopt} disabled={trial.problem !== null} title="Adopt the trial (Ctrl+Enter)">
              Adopt
            </Button>{' '}
            <Button size="sm" variant="link" onClick={discard} title="Discard the trial (Ctrl+Backspace)">
              Discard
            </Button>
          </span>
        ) : (
          <Link to={`/courses/${id}/record`}>The record</Link>
        )}
      </div>
      {asked}
    </footer>
  )
}

function TrialWords() {
  const { trial } = useCourseAtHorizon()
  if (trial.problem) return <span className="brick">{trial.problem}</span>
  if (!trial.change) return <>Trial: working it out…</>
  const { movers, reversed, percents } = trial.change
  return (
    <>
      <b>
        Trial:{' '}
        {movers.length === 0 ? 'no grade changes' : `${counted(movers.length, 'grade')} ${movers.length === 1 ? 'changes' : 'change'}`}
      </b>
      <br />
      <span className="soft">
        {[
          movesInWords(movesOf(trial.change)),
          reversed > 0
            ? `${counted(reversed, 'pair')} in another order`
            : movers.length === 0
              ? `${counted(percents, 'percent')} move`
              : '',
        ]
          .filter(Boolean)
          .join(' · ')}
      </span>
    </>
  )
}

/** The course as it stands, with what is adopted as a ghost behind an open trial. */
const Strip = memo(function Strip(props: { people: StripPeople; current: GradedColumns; ghost: GradedColumns | null }) {
  const { people, current, ghost } = props
  const before = useMemo(() => ghost && peopleOf(ghost).value, [ghost])
  const counts = useMemo(() => countsOfTable(current.boundaries, current.table), [current])
  return <GradeStrip people={people} before={before} boundaries={current.boundaries} counts={counts} />
})
