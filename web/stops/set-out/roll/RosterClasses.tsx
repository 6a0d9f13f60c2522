import { group } from 'd3-array'
import { useId } from 'react'
import { Form } from 'react-bootstrap'
import type { TriedRoll } from '#contract'
import { counted } from '../../../parts/format'
import styles from './roll.module.css'

type Roster = NonNullable<TriedRoll['roster']>

/** Which classes of a roster are this course's, where it holds those of others as well; and that it says only what changed. */
export function RosterClasses({ roster, onChoose }: { roster: Roster; onChoose: (classIds: string[]) => void }) {
  const id = useId()
  const { classes, left, delta } = roster
  const courses = [...group(classes, (c) => c.course)]
  const chosen = new Set(classes.filter((c) => c.chosen).map((c) => c.sourceId))
  const set = (ids: readonly string[], on: boolean) =>
    onChoose(classes.map((c) => c.sourceId).filter((c) => (ids.includes(c) ? on : chosen.has(c))))
  return (
    <>
      {delta && <p className="note">The roster says what changed since another: whoever is not in it stays as they are.</p>}
      {(courses.length > 1 || chosen.size < classes.length) && (
        <fieldset className={styles.rosterClasses} aria-describedby={`${id}-left`}>
          <legend>Which classes are this course’s?</legend>
          {courses.map(([course, own]) => {
            const ids = own.map((c) => c.sourceId)
            const on = ids.filter((c) => chosen.has(c)).length
            return (
              <div key={course} role="group" aria-label={course || 'No course'}>
                <Form.Check
                  id={`${id}-${course}`}
                  className="fw-semibold"
                  label={`${course || 'No course'}: ${on === 0 || on === ids.length ? counted(ids.length, 'class', 'classes') : `${on} of ${counted(ids.length, 'class', 'classes')}`}`}
                  checked={on === ids.length}
                  ref={(box: HTMLInputElement | null) => void (box && (box.indeterminate = on > 0 && on < ids.length))}
                  onChange={(e) => set(ids, e.target.checked)}
                />
                <div className={styles.rosterOwn}>
                  {own.map((c) => (
                    <Form.Check
                      key={c.sourceId}
                      id={`${id}-${c.sourceId}`}
                      label={
                        <>
                          {c.code === c.title ? c.title : `${c.code} ${c.title}`}{' '}
                          <span className="soft">{counted(c.students, 'student')}</span>
                        </>
                      }
                      checked={c.chosen}
                      onChange={(e) => set([c.sourceId], e.target.checked)}
                    />
                  ))}
                </div>
              </div>
            )
          })}
          <p id={`${id}-left`} className="soft small mb-0" role="status">
            {left === 0
              ? 'Every enrolment of the file is read.'
              : `${counted(left, 'enrolment')} in other classes ${left === 1 ? 'is' : 'are'} left where ${left === 1 ? 'it is' : 'they are'}.`}
          </p>
        </fieldset>
      )}
      {roster.learnt > 0 && chosen.size > 0 && (
        <p className="soft small mb-1">
          Its ids of classes and teachers, and names in their parts, are kept: the next roster finds them again, and files for others name
          them so.
        </p>
      )}
    </>
  )
}
