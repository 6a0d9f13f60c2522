import { routes, type Sharing, type SharingTried } from '#contract'
import { call } from '../../../api/client'
import { useWrites } from '../../../saving/writes'
import { NumberField } from '../../../parts/NumberField'
import { Progress } from '../../../parts/Progress'
import { today } from '../../../parts/format'
import type { Rule } from './rule'
import { DateField } from '../../../parts/DateField'
import styles from './sharing.module.css'

interface Props {
  courseId: string
  sharing: Sharing
  rule: Rule
  tried: SharingTried | null
  decides: boolean
  onSet: (rule: Rule) => void
}

/** Each marker's pile: how much time they have for it, how much it is, how far they are, and by when it is wanted. */
export function Loads({ courseId, sharing, rule, tried, decides, onSet }: Props) {
  const { write } = useWrites()
  const most = Math.max(1, ...sharing.loads.map((l) => l.allotted), ...(tried?.loads.map((l) => l.after) ?? []))
  // Panels are named, and a section has its teacher: how much time somebody has decides nothing there.
  const byTime = decides && rule.how !== 'panels' && rule.how !== 'by section'
  const capacityOf = (id: string) => rule.markers.find((m) => m.id === id)?.capacity ?? 0
  const setCapacity = (id: string, capacity: number) =>
    onSet({ ...rule, markers: [...rule.markers.filter((m) => m.id !== id), ...(capacity > 0 ? [{ id, capacity }] : [])] })
  const setDue = (markerId: string, due: string | null, before: string | null) => {
    const send = (day: string | null) =>
      call(routes.setReadBy, { params: { courseId, assessmentId: sharing.assessment.id, markerId }, body: { due: day } }).then(() => true)
    void write(
      'wanted by',
      () => send(due),
      () => send(before),
    )
  }
  return (
    <table className={`grid ${styles.loads}`}>
      <thead>
        <tr>
          <th>marker</th>
          <th>teaches</th>
          {byTime && (
            <th className="number" title="How much of the reading is theirs beside the others'; 0 for none">
              time for it
            </th>
          )}
          <th>pile</th>
          <th className="number">handed in</th>
          <th>wanted by</th>
        </tr>
      </thead>
      <tbody>
        {sharing.loads.map((l) => {
          const then = tried?.loads.find((t) => t.id === l.id)
          const after = then?.after
          const late = l.due !== null && l.due < today() && l.handedIn < l.allotted
          return (
            <tr key={l.id}>
              <td className="fw-semibold">{l.name}</td>
              <td className="soft small">{l.teaches.join(', ')}</td>
              {byTime && (
                <td className="number">
                  <NumberField
                    label={`Time that ${l.name} has for it`}
                    className="short"
                    value={capacityOf(l.id)}
                    min={0}
                    max={100}
                    step={0.5}
                    onCommit={(n) => n !== null && setCapacity(l.id, n)}
                  />
                </td>
              )}
              <td>
                <Progress
                  of={after ?? l.allotted}
                  done={l.handedIn}
                  most={most}
                  words={`${l.allotted} now${after === undefined ? '' : `, ${after} then`}`}
                />
                <span className="number">
                  {after === undefined || after === l.allotted ? (
                    l.allotted
                  ) : (
                    <>
                      <span className="soft">{l.allotted} →</span> <b>{after}</b>
                    </>
                  )}
                </span>
                {then && then.given > 0 && <span className="soft small"> {then.given} new</span>}
              </td>
              <td className="number">
                {l.handedIn}
                {l.draft > 0 && <span className="soft small"> +{l.draft} begun</span>}
              </td>
              <td>
                {decides ? (
                  <DateField
                    label={`Wanted from ${l.name} by`}
                    className={late ? styles.late : ''}
                    value={l.due ?? ''}
                    onCommit={(day) => setDue(l.id, day || null, l.due)}
                  />
                ) : (
                  l.due
                )}
              </td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
