import { useState } from 'react'
import type { Boundary } from '#core/grades'
import { doneScale, gradesScale, judgementScale, pointsScale } from '#core/scales'
import type { ScaleBody } from '#contract'
import { NumberField } from '../../parts/NumberField'
import styles from './agree.module.css'

const MOST_POINTS = 100

/** Labels to begin a scale from, instead of typing one after the other; what was there comes back with undo. */
export function BeginFrom({ boundaries, onBegin }: { boundaries: readonly Boundary[]; onBegin: (body: ScaleBody, what: string) => void }) {
  const [top, setTop] = useState(5)
  const grades = boundaries.map((b) => b.grade).join(', ')
  return (
    <p className={styles.beginFrom} role="group" aria-label="Begin from">
      <span className="soft">Or begin from</span>
      <span>
        <button className="quiet-button" onClick={() => onBegin(pointsScale(top), `points 0 to ${top}`)}>
          points 0 to
        </button>{' '}
        <NumberField
          label="Points up to"
          className="short"
          value={top}
          min={1}
          max={MOST_POINTS}
          onCommit={(n) => n !== null && setTop(Math.round(n))}
        />
      </span>
      <button className="quiet-button" onClick={() => onBegin(judgementScale(), 'words of judgement')}>
        words of judgement
      </button>
      <button className="quiet-button" onClick={() => onBegin(doneScale(), 'done or not')}>
        done or not done
      </button>
      {grades && (
        <button className="quiet-button" title={grades} onClick={() => onBegin(gradesScale(boundaries), 'the grades')}>
          this course’s grades
        </button>
      )}
    </p>
  )
}
