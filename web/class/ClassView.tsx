import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useMemo, useState } from 'react'
import { Form } from 'react-bootstrap'
import { Link, useParams } from 'react-router'
import { routes, type ClassCell, type ClassView as View } from '#contract'
import { call, messageOf } from '../api/client'
import { problemOf } from '../api/problem-of'
import { counted, numeral, shownDay, today } from '../parts/format'
import { KeysHelp } from '../settings/KeysHelp'
import { KeysProvider, useKeys } from '../settings/keys'
import styles from './class-view.module.css'

type CalledBy = 'numbers' | 'code names'

/** A section's work on a wall, by numbers or code names: names are on no part of this page, and none is fetched for it. */
export default function ClassView() {
  return (
    <KeysProvider>
      <OnTheWall />
      <KeysHelp />
    </KeysProvider>
  )
}

function OnTheWall() {
  const { courseId = '', sectionId = '' } = useParams()
  const queries = useQueryClient()
  const key = ['class', courseId, sectionId]
  const params = { courseId, sectionId }
  const view = useQuery({ queryKey: key, queryFn: () => call(routes.classView, { params }) })
  const [by, setBy] = useState<CalledBy>('numbers')
  const [chosen, setChosen] = useState<string | null>(null)
  const [refused, setRefused] = useState('')
  const data = view.data
  const latest = useMemo(() => (data ? latestDue(data) : null), [data])
  const assessments = data?.assessments ?? []
  const at = assessments.findIndex((a) => a.id === (chosen ?? latest))
  const step = (by: 1 | -1) => {
    const next = assessments[(at + by + assessments.length) % assessments.length]
    if (next) setChosen(next.id)
  }
  const hasCodeNames = data?.rows.every((r) => r.codeName !== null) ?? false
  const draw = async (anew: boolean) => {
    try {
      setRefused('')
      queries.setQueryData(key, await call(routes.drawCodeNames, { params, body: { anew } }))
      setBy('code names')
    } catch (e) {
      setRefused(messageOf(e))
    }
  }
  const turn = () => (by === 'numbers' ? (hasCodeNames ? setBy('code names') : void draw(false)) : setBy('numbers'))
  useKeys([
    { key: 'ArrowRight', does: 'the next work', run: () => step(1) },
    { key: 'ArrowLeft', does: 'the work before', run: () => step(-1) },
    { key: 'n', does: 'numbers or code names', run: turn },
  ])
  const problem = problemOf(view)
  if (problem) return <p className="empty">{problem}</p>
  if (!data) return <p className="empty">Fetching the class…</p>
  const shown = assessments[at]
  return (
    <main className={styles.wall}>
      <title>{`${data.section}, ${data.course}`}</title>
      <header className={styles.head}>
        <h1>
          {data.section} <span className="soft">{data.course}</span>
        </h1>
        <Form.Select aria-label="Work" value={shown?.id ?? ''} onChange={(e) => setChosen(e.target.value)}>
          {assessments.map((a) => (
            <option key={a.id} value={a.id}>
              {a.title}
            </option>
          ))}
        </Form.Select>
        <div className="words-choice" role="group" aria-label="Called by">
          {(['numbers', 'code names'] as const).map((c) => (
            <button key={c} aria-pressed={by === c} onClick={() => c !== by && turn()}>
              {c}
            </button>
          ))}
        </div>
        {by === 'code names' && (
          <button className="quiet-button" onClick={() => void draw(true)}>
            Draw them anew
          </button>
        )}
        <Link className="ms-auto" to={`/courses/${courseId}`}>
          Back to the course
        </Link>
      </header>
      {refused && <p className="note bad">{refused}</p>}
      {!shown || data.rows.length === 0 ? (
        <p className="empty">{shown ? 'Nobody is in this section.' : 'Nothing is set for this section yet.'}</p>
      ) : (
        <>
          <p className={styles.said} role="status">
            {inWords(data, at)}
            {shown.due && <span className="soft"> Due {shownDay(shown.due, 'EEEE d MMMM')}.</span>}
          </p>
          <ul className={styles.people}>
            {inOrder(data, by).map((r) => (
              <li key={r.number} className={r.cells[at] === 'nothing yet' ? styles.blank : undefined}>
                <span>{(by === 'code names' && r.codeName) || r.number}</span>
                <Cell cell={r.cells[at]!} outOf={shown.outOf} />
              </li>
            ))}
          </ul>
        </>
      )}
    </main>
  )
}

function Cell({ cell, outOf }: { cell: ClassCell; outOf: number }) {
  if (typeof cell !== 'number') return <span className={cell === 'nothing yet' ? styles.nothing : 'soft'}>{cell}</span>
  return (
    <b className="number">
      {numeral(cell)} <span className="soft fw-normal">of {numeral(outOf)}</span>
    </b>
  )
}

/** The work that was due last; where none was yet, the first. */
function latestDue({ assessments }: View): string | null {
  const due = assessments.filter((a) => a.due !== null && a.due <= today()).toSorted((a, b) => (a.due! < b.due! ? 1 : -1))
  return due[0]?.id ?? assessments[0]?.id ?? null
}

/** By what they are called: an order by anything else would tell who is who. */
const inOrder = ({ rows }: View, by: CalledBy): View['rows'] =>
  by === 'numbers' ? rows : rows.toSorted((a, b) => (a.codeName ?? a.number).localeCompare(b.codeName ?? b.number))

function inWords({ rows }: View, at: number): string {
  const cells = rows.map((r) => r.cells[at]!)
  const set = cells.filter((c) => c !== 'not set')
  const nothing = cells.filter((c) => c === 'nothing yet').length
  const marks = cells.filter((c) => typeof c === 'number').length
  return `${marks > 0 ? `${counted(marks, 'mark')} out` : 'No mark out yet'}; ${nothing === 0 ? 'everything has come in' : `of ${nothing} of ${set.length} nothing has come in`}.`
}
