import { useRef, useState } from 'react'
import { wholePercents } from '#core/grades'
import { useDecidedCourse, useYears } from '../../../course/course'
import { useKeys } from '../../../settings/keys'
import { AxisTicks } from '../../../parts/AxisTicks'
import { TakeOut } from '../../../parts/take-out/TakeOut'
import { Vial } from '../../../parts/Vial'
import { useEarlierCourses } from '../../../parts/useEarlierCourses'
import { WorkingOut } from '../../../parts/WorkingOut'
import { counted, DASH, fixed, signed, today } from '../../../parts/format'
import { ticksOf } from '../../../parts/ticks'
import { CompareHead } from '../CompareHead'
import { GroupRidge } from '../GroupRidge'
import type { ViewProps } from '../kinds'
import { CloseUp } from '../../../parts/CloseUp'
import styles from '../compare.module.css'
import type { ComparedYear } from './figures'
import { yearsOut } from './table-out'

/** This year beside earlier issues of the same course. */
export function Years(view: ViewProps) {
  const { id, table } = useDecidedCourse()
  const earlier = useEarlierCourses()
  const [asMarked, setAsMarked] = useState(false)
  const compared = useYears(
    earlier.map((c) => c.id),
    view.subject,
    asMarked,
  )
  const [chosenId, setChosen] = useState<string | null>(null)
  const within = useRef<HTMLTableElement>(null)
  const years = compared?.years ?? []
  const chosen = years.find((y) => y.courseId === chosenId) ?? years[1] ?? years[0]
  const step = (by: number) => {
    const next = chosen && years[years.indexOf(chosen) + by]
    if (next) setChosen(next.courseId)
  }
  useKeys([
    { key: 'ArrowDown', does: 'year before', run: () => step(1) },
    { key: 'ArrowUp', does: 'next year', run: () => step(-1) },
    { key: 'g', does: 'as they count, or as they were marked', run: () => setAsMarked((was) => !was) },
  ])
  if (!compared) return <WorkingOut />
  const head = (
    <CompareHead
      {...view}
      rows="years"
      asMarked={asMarked}
      question="Is this year like the last?"
      out={
        <TakeOut
          table={() => yearsOut(compared)}
          chart={{ words: { title: `${compared.title} by year`, under: `${table.head.code} ${table.head.title}, ${today()}` }, within }}
        />
      }
    >
      {compared.rescaled && (
        <div className={styles.bar}>
          <span className="pill-choice ms-0 me-auto" role="group" aria-label="Which figures of the years">
            <button aria-pressed={!compared.asMarked} onClick={() => setAsMarked(false)}>
              as they count
            </button>
            <button aria-pressed={compared.asMarked} onClick={() => setAsMarked(true)} title="g">
              as they were marked
            </button>
          </span>
        </div>
      )}
    </CompareHead>
  )
  return (
    <div className="work">
      <main className="table-side">
        {head}
        <table className={`grid ${styles.grid}`} ref={within}>
          <thead>
            <tr>
              <th>year</th>
              <th className={styles.axis} aria-hidden>
                <AxisTicks ticks={ticksOf(compared.from, compared.top)} from={compared.from} to={compared.top} />
              </th>
              <th className="number">marked</th>
              <th className="number">median</th>
              <th className="number">mean</th>
              <th className="number">sd</th>
              <th>against this year</th>
            </tr>
          </thead>
          <tbody>
            {years.map((y) => (
              <tr key={y.courseId} className="pick" aria-selected={y === chosen} onClick={() => setChosen(y.courseId)}>
                <td className={styles.name}>
                  <button className="row-name" onClick={() => setChosen(y.courseId)}>
                    {y.term}
                  </button>
                  <small>{y.courseId === id ? 'this year, so far' : y.title}</small>
                </td>
                <GroupRidge group={{ ...y, id: y.courseId, name: y.term }} in={compared} chosen={y === chosen} />
                <td className="number">{y.figures.n}</td>
                <td className="number">{fixed(y.figures.median)}</td>
                <td className="number">{fixed(y.figures.mean)}</td>
                <td className="number soft">{fixed(y.figures.sd)}</td>
                <td>
                  {y.courseId !== id && (
                    <Vial name={y.term} lean={y.difference} interval={y.interval} tolerance={compared.tolerance} unit={compared.unit} />
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {earlier.length === 0 && (
          <p className="soft mt-2">
            No earlier issue of {table.head.code} is among your courses. Once one is confirmed, it stands here beside this year.
          </p>
        )}
        <p className="soft small mt-2 mb-0">Counted this year: {compared.who}.</p>
        {compared.odd.length > 0 && (
          <ul className="small mt-2 ps-3">
            {compared.odd.map((o) => (
              <li key={o}>{o}</li>
            ))}
          </ul>
        )}
      </main>
      <CloseUp>{chosen && <YearCloseUp year={chosen} now={years[0]!} unit={compared.unit} />}</CloseUp>
    </div>
  )
}

/** The grades of a year beside this year’s. */
function YearCloseUp({ year, now, unit }: { year: ComparedYear; now: ComparedYear; unit: string }) {
  const grades = [...new Set([...now.grades, ...year.grades].map((g) => g.grade))]
  const own = (y: ComparedYear, grade: string) => y.grades.find((g) => g.grade === grade)?.count ?? 0
  const part = (y: ComparedYear, grade: string) => {
    const at = y.grades.findIndex((g) => g.grade === grade)
    return y.graded > 0 && at >= 0 ? `${wholePercents(y.grades.map((g) => g.count))[at]}%` : DASH
  }
  const same = year === now
  return (
    <>
      <section>
        <h2>{year.term}</h2>
        <p>
          {year.title}: {counted(year.figures.n, 'student')}, mean {fixed(year.figures.mean)}
          {!same && year.difference !== null && year.interval && (
            <>
              , {signed(year.difference)} {unit} against this year (95% {signed(year.interval[0])} to {signed(year.interval[1])})
            </>
          )}
          .
        </p>
      </section>
      <section>
        <h2>Shares of grades</h2>
        <table className="grid">
          <thead>
            <tr>
              <th>grade</th>
              {!same && <th className="number">{year.term}</th>}
              <th className="number">this year, so far</th>
            </tr>
          </thead>
          <tbody>
            {grades.map((grade) => (
              <tr key={grade}>
                <td>{grade}</td>
                {!same && (
                  <td className="number">
                    {part(year, grade)} <span className="soft small">{own(year, grade)}</span>
                  </td>
                )}
                <td className="number">
                  {part(now, grade)} <span className="soft small">{own(now, grade)}</span>
                </td>
              </tr>
            ))}
            <tr>
              <td className="soft">graded</td>
              {!same && <td className="number soft">{year.graded}</td>}
              <td className="number soft">{now.graded}</td>
            </tr>
          </tbody>
        </table>
      </section>
    </>
  )
}
