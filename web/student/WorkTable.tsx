import { differenceInCalendarDays, format, parseISO } from 'date-fns'
import type { OwnWork } from '#contract'
import { counted, fixed, numeral, today } from '../parts/format'

type Work = OwnWork['work'][number]

/** Whether there is more to be seen of it than its line. */
export const opens = (w: Work): boolean => w.standard !== null || w.levels !== null || w.exemplars.length > 0 || w.remarks.length > 0

/** By which its line is found again. */
export const rowId = (assessment: string): string => `work-${assessment}`

interface Props {
  title: string
  work: readonly Work[]
  /** Those that are new since one was here last. */
  fresh?: ReadonlySet<string>
  shown: Work | null
  onShow: (work: Work | null) => void
}

/** Pieces of work with the day they are due and the mark they came back with. */
export function WorkTable({ title, work, fresh, shown, onShow }: Props) {
  if (work.length === 0) return null
  const places = Math.max(0, ...work.map((w) => (numeral(w.mark).split('.')[1] ?? '').length))
  return (
    <section>
      <h2>{title}</h2>
      <table className="grid">
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
                    onClick={() => onShow(shown === w ? null : w)}
                  >
                    {w.assessment}
                  </button>
                ) : (
                  w.assessment
                )}
                {fresh?.has(w.assessment) && <span className="ochre small fw-normal"> new</span>}
              </td>
              <td className="own-due">{w.due ? <Due day={w.due} /> : <span className="soft">no day yet</span>}</td>
              {w.released && w.mark !== null ? (
                <>
                  <td className="num fw-semibold">{fixed(w.mark, places)}</td>
                  <td className="soft">of {numeral(w.outOf)}</td>
                </>
              ) : (
                <td className="num soft" colSpan={2}>
                  {!w.released ? 'not released' : w.status === null || w.status === 'in' ? 'no mark yet' : w.status}
                </td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

/** The day, and how far off it is while it is to come. */
function Due({ day }: { day: string }) {
  const left = differenceInCalendarDays(parseISO(day), parseISO(today()))
  return (
    <>
      {format(parseISO(day), 'EEE d MMM')}
      {left >= 0 && <span className="soft small"> {left === 0 ? 'today' : `in ${counted(left, 'day')}`}</span>}
    </>
  )
}
