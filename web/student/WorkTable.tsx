import { differenceInCalendarDays, parseISO } from 'date-fns'
import type { OwnWork } from '#contract'
import { counted, fixed, numeral, shownDay, today } from '../parts/format'
import styles from './student.module.css'

type Work = OwnWork['work'][number]

/** Whether there is more to be seen of it than its line. */
export const opens = (w: Work): boolean =>
  w.standard !== null ||
  w.levels !== null ||
  w.exemplars.length > 0 ||
  w.remarks.length > 0 ||
  w.handIn !== null ||
  // The days for asking are over, and nothing was asked: there is nothing more to see.
  (w.asking !== null && (w.asking.until !== null || w.asking.questions.length > 0))

/** By which its line is found again. */
export const rowId = (assessment: string): string => `work-${assessment}`

interface Props {
  title: string
  work: readonly Work[]
  shown: Work | null
  onShow: (id: string | null) => void
}

/** Pieces of work with the day they are due and the mark they came back with. */
export function WorkTable({ title, work, shown, onShow }: Props) {
  if (work.length === 0) return null
  const places = Math.max(0, ...work.map((w) => (numeral(w.mark).split('.')[1] ?? '').length))
  return (
    <section>
      <h2>{title}</h2>
      <table className="grid">
        <colgroup>
          <col className={styles.what} />
          <col className={styles.when} />
          <col />
          <col className={styles.of} />
        </colgroup>
        <thead className="visually-hidden">
          <tr>
            <th>assessment</th>
            <th>due</th>
            <th>mark</th>
            <th>marked out of</th>
          </tr>
        </thead>
        <tbody>
          {work.map((w) => (
            <tr key={w.assessment} className={shown === w ? 'chosen' : undefined}>
              <td className="fw-semibold">
                {opens(w) ? (
                  <button
                    id={rowId(w.assessment)}
                    className="row-name"
                    aria-expanded={shown === w}
                    onClick={() => onShow(shown === w ? null : w.id)}
                  >
                    {w.assessment}
                  </button>
                ) : (
                  w.assessment
                )}
                <More work={w} />
              </td>
              <td className={styles.ownDue}>{w.due ? <Due day={w.due} /> : <span className="soft">no day yet</span>}</td>
              {w.released && w.mark !== null ? (
                <>
                  <td className="number fw-semibold">{fixed(w.mark, places)}</td>
                  <td className="soft">of {numeral(w.outOf)}</td>
                </>
              ) : (
                <td className="number soft" colSpan={2}>
                  {isToHandIn(w) ? (
                    <button className="btn btn-outline-primary btn-sm" onClick={() => onShow(w.id)} aria-label={`Hand in ${w.assessment}`}>
                      Hand in
                    </button>
                  ) : (
                    waitsFor(w)
                  )}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

const isToHandIn = ({ handIn }: Work): boolean => handIn !== null && handIn.open && handIn.attempts.length === 0

function waitsFor({ released, status, handIn }: Work): string {
  if (!released) return handIn && handIn.attempts.length > 0 ? 'handed in' : 'not released'
  return status === null || status === 'in' ? 'no mark yet' : status
}

/** What there is beyond the mark, in a few words. */
function More({ work: { remarks, asking } }: { work: Work }) {
  const waits = asking?.questions.some((q) => q.answer === null)
  const words = waits ? 'asked' : remarks.length > 0 ? 'remarks' : null
  return words && <span className="soft small fw-normal"> {words}</span>
}

/** The day, and how far off it is while it is to come. */
function Due({ day }: { day: string }) {
  const left = differenceInCalendarDays(parseISO(day), parseISO(today()))
  return (
    <>
      <span className="text-nowrap">{shownDay(day, 'EEE d MMM')}</span>
      {left >= 0 && <span className="soft small"> {left === 0 ? 'today' : `in ${counted(left, 'day')}`}</span>}
    </>
  )
}
