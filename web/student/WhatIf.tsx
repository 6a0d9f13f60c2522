import { useEffect, useMemo, useRef, useState } from 'react'
import { Form } from 'react-bootstrap'
import { needed, openWork, whatIf, type Course } from '#core/grades'
import { numeral } from '../parts/format'
import { NumberField } from '../parts/NumberField'
import { gradeAt, ME, standingIn } from './own-course'
import styles from './student.module.css'

const STEP = 0.5

interface Props {
  course: Course
  titles: ReadonlyMap<string, string>
}

/** What a student would need in what is open for a grade, on a copy: one mark is pulled, the others follow as they must. */
export default function WhatIf({ course, titles }: Props) {
  const { grades, place } = useMemo(() => gradeAt(course, standingIn(course).soFar ?? 0), [course])
  const [goal, setGoal] = useState(() => {
    const reachable = standingIn(course).highest ?? 0
    return (grades.slice(0, Math.max(0, place)).findLast((g) => g.from <= reachable) ?? grades[Math.max(0, place)])?.grade ?? ''
  })
  const [held, setHeld] = useState<Record<string, number>>({})
  const heading = useRef<HTMLHeadingElement>(null)
  useEffect(() => heading.current?.focus(), [])
  const open = useMemo(() => openWork(course, ME), [course])
  const found = useMemo(() => needed(course, ME, goal, held, STEP), [course, goal, held])
  const hold = (id: string, mark: number) => setHeld((before) => ({ ...before, [id]: mark }))
  const follow = (id: string) =>
    setHeld(({ ...others }) => {
      Reflect.deleteProperty(others, id)
      return others
    })
  const { within, marks, result } = found
  const lower = within ? whatLowers(course, marks, goal) : null
  return (
    <section aria-labelledby="what-if-title" className={styles.whatIf}>
      <h1 ref={heading} id="what-if-title" tabIndex={-1}>
        What would I need for{' '}
        <Form.Select size="sm" className="w-auto d-inline-block" aria-label="Grade" value={goal} onChange={(e) => setGoal(e.target.value)}>
          {grades.map((g) => (
            <option key={g.grade}>{g.grade}</option>
          ))}
        </Form.Select>
        ?
      </h1>
      <p className="soft">
        {goal} begins at {numeral(grades.find((g) => g.grade === goal)?.from)}. Pull one, and the others follow as they must. Nothing is
        touched by it.
      </p>
      <ul>
        {open.map((id) => {
          const { outOf } = course.assessments.find((a) => a.id === id)!
          const title = titles.get(id) ?? ''
          const step = outOf <= 1 ? outOf : STEP
          return (
            <li key={id} className={id in held ? undefined : styles.follows}>
              <div className={styles.workLine}>
                <b>{title}</b>
                <span className="number">
                  <NumberField
                    label={`Mark in ${title}`}
                    value={marks[id]!}
                    min={0}
                    max={outOf}
                    step={step}
                    onCommit={(mark) => mark !== null && hold(id, mark)}
                  />
                  <span className="soft"> of {numeral(outOf)}</span>
                </span>
              </div>
              <input
                type="range"
                aria-label={title}
                aria-valuetext={`${numeral(marks[id])} of ${numeral(outOf)}${id in held ? '' : ', follows'}`}
                min={0}
                max={outOf}
                step={step}
                value={marks[id]}
                onChange={(e) => hold(id, Number(e.target.value))}
              />
              {id in held && (
                <button className="quiet-button small" onClick={() => follow(id)}>
                  Let {title} follow again
                </button>
              )}
            </li>
          )
        })}
      </ul>
      <p role="status">
        {within ? (
          <>
            So the course would end at <b>{numeral(result.rounded)}</b>: {result.grade}.{lower && ` ${lower(titles)}`}
          </>
        ) : (
          <>
            {goal} is out of reach{Object.keys(held).length > 0 && ' with that'}: full marks in the rest would make{' '}
            <b>{numeral(result.rounded)}</b>, {result.grade}.
          </>
        )}
      </p>
      {Object.keys(held).length > 0 && (
        <button className="btn btn-outline-primary btn-sm" onClick={() => setHeld({})}>
          Start over
        </button>
      )}
      <p className="soft small mt-3">
        By the grades as they are drawn now and the marks that are back. Both can still move until the result is confirmed.
      </p>
    </section>
  )
}

/** The work in which one mark less costs the grade first, in words. */
function whatLowers(course: Course, marks: Record<string, number>, goal: string): ((titles: ReadonlyMap<string, string>) => string) | null {
  for (const [id, mark] of Object.entries(marks)) {
    if (mark < 1) continue
    const less = whatIf(course, ME, { ...marks, [id]: mark - 1 })
    if (less.grade !== goal && less.rounded !== null && !isAbove(course, less.grade, goal))
      return (titles) => `One mark less in ${titles.get(id) ?? 'it'}, and it is ${numeral(less.rounded)}: ${less.grade}.`
  }
  return null
}

function isAbove(course: Course, grade: string | null, goal: string): boolean {
  const from = (name: string | null) => course.boundaries.find((b) => b.grade === name)?.from ?? -Infinity
  return from(grade) > from(goal)
}
