import { useEffect, useState } from 'react'
import { Button } from 'react-bootstrap'
import { checkNewBoundaries, isSameSet, type Boundary } from '#core/grades'
import type { Plan } from '#contract'
import { NumberField } from '../../../parts/NumberField'
import { TitleField } from '../../../parts/TitleField'
import { withGrade, withGradeBelow, withoutGradeAt } from '../../../parts/edited-grades'
import { numeral } from '../../../parts/format'
import { usePlanEdits } from '../plan/edits'
import { GradeSets } from './GradeSets'
import styles from '../people/people.module.css'

/** The grades of the course, from the best: added, renamed, taken away; saved at once before there are marks, tried after. */
export function Grades({ decided }: { decided: Plan }) {
  const { plan, mayDecide, grades } = usePlanEdits(decided)
  /** As typed, while it is no set that could be in force. */
  const [typed, setTyped] = useState<Boundary[] | null>(null)
  const inForce = plan.boundaries.map((b) => `${b.grade} ${b.from}`).join()
  useEffect(() => setTyped(null), [inForce])
  const rows = typed ?? plan.boundaries
  const findings = typed ? checkNewBoundaries(typed, plan) : []
  const put = (next: Boundary[], what: string) => {
    if (checkNewBoundaries(next, plan).length > 0) return setTyped(next)
    setTyped(null)
    grades(next, what)
  }
  const change = (at: number, patch: Partial<Boundary>, what: string) => put(withGrade(rows, at, patch), what)
  const add = (below: number) => put(withGradeBelow(rows, below), 'add a grade')
  const takeAway = (at: number) => put(withoutGradeAt(rows, at), `take ${rows[at]!.grade} away`)
  const tried = decided.hasMarks && !isSameSet(plan.boundaries, decided.boundaries)
  const says = (at: number) => findings.filter((f) => f.row === at).map((f) => f.message)
  return (
    <section>
      <h2>Grades, and where they begin</h2>
      <p className="soft">
        {decided.hasMarks
          ? tried
            ? 'These are in the open trial: the strip below says who moves. Adopt or discard it there.'
            : 'There are marks, so a change is tried first; where lines are drawn best is seen at Bound.'
          : 'From the best to the worst; there are no marks yet, so it is saved as you go.'}
      </p>
      <table className={`grid ${styles.gradesTable}`}>
        <thead>
          <tr>
            <th>grade</th>
            <th className="number">begins at</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {rows.map((b, i) => {
            const last = i === rows.length - 1
            const wrong = says(i)
            return (
              <tr key={i}>
                <td>
                  <TitleField
                    label={`Grade ${i + 1}`}
                    value={b.grade}
                    disabled={!mayDecide}
                    onCommit={(grade) => change(i, { grade }, `name ${grade}`)}
                  />
                  {wrong.length > 0 && <span className="field-reason">{wrong.join(' ')}</span>}
                </td>
                <td className="number">
                  {last ? (
                    <span className="soft">0</span>
                  ) : (
                    <NumberField
                      label={`${b.grade} begins at`}
                      value={b.from}
                      step={0.5}
                      disabled={!mayDecide}
                      refused={wrong.length > 0}
                      onCommit={(from) => from !== null && change(i, { from }, `${b.grade} begins at ${numeral(from)}`)}
                    />
                  )}
                </td>
                <td className="text-nowrap text-end">
                  {mayDecide && !last && (
                    <Button size="sm" variant="link" aria-label={`Add a grade below ${b.grade}`} onClick={() => add(i)}>
                      add below
                    </Button>
                  )}
                  {mayDecide && rows.length > 2 && (
                    <Button size="sm" variant="link" aria-label={`Take ${b.grade} away`} onClick={() => takeAway(i)}>
                      take away
                    </Button>
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {typed && (
        <p className="note bad mt-2" role="alert">
          {findings
            .filter((f) => f.row === null)
            .map((f) => f.message)
            .join(' ')}{' '}
          As typed it is no set yet, and is not {decided.hasMarks ? 'tried' : 'saved'}.{' '}
          <button className="quiet-button" onClick={() => setTyped(null)}>
            Put it back
          </button>
        </p>
      )}
      {mayDecide && (
        <GradeSets courseId={decided.head.id} keepable={typed === null} onTake={(name, set) => put([...set], `grades: ${name}`)} />
      )}
    </section>
  )
}
