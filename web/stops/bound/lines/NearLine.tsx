import { Fragment, memo, useMemo } from 'react'
import { Form } from 'react-bootstrap'
import { Link } from 'react-router'
import type { NearBoundary } from '#core/bounds'
import type { Boundary } from '#core/grades'
import { useDecidedCourse } from '../../../course/course'
import { usePersonLabels } from '../../../settings/names'
import { CarryPeople } from '../../../parts/CarryPeople'
import { counted, fixed, numeral, signed } from '../../../parts/format'
import type { OneMore } from '../one-more'
import type { SureFigures } from '../../../parts/sure-figures'
import { SureBar } from '../SureBar'
import styles from '../bound.module.css'

const ZONES = [0.5, 1, 2, 3]
/** How many are shown at first, and how many more at a time. */
export const AT_ONCE = 15

interface Props {
  /** The line that these figures are of. */
  boundary: Boundary
  near: readonly NearBoundary[]
  zone: number
  onZone: (zone: number) => void
  sure: SureFigures | undefined
  /** How many are shown. */
  shown: number
  onShow: (shown: number) => void
  /** What one mark would do to those that are shown. */
  more: readonly OneMore[] | undefined
}

/** Who stands near a line: how far from it, how sure, what one mark more or less would do and where, and how often they were read. */
export const NearLine = memo(function NearLine({ boundary, near, zone, onZone, sure, shown, onShow, more }: Props) {
  const { id, table } = useDecidedCourse()
  const label = usePersonLabels(table.students)
  const oneMore = new Map(more?.map((m) => [m.studentId, m]))
  const place = useMemo(() => new Map(table.students.map((s, i) => [s.id, i])), [table.students])
  const title = new Map(table.assessments.map((a) => [a.id, a.title]))
  const exactly = near.filter((n) => n.distance === 0).length
  const once = [...oneMore.values()].filter((m) => m.read > m.twice)
  const named = (ids: string[]) => (ids.length > 2 ? `any of ${ids.length}` : ids.map((a) => title.get(a)).join(' or '))
  return (
    <section>
      <h2 className="d-flex align-items-baseline gap-2">
        Near this line
        <Form.Select size="sm" className="w-auto" aria-label="How near" value={zone} onChange={(e) => onZone(Number(e.target.value))}>
          {ZONES.map((z) => (
            <option key={z} value={z}>
              within {numeral(z)}
            </option>
          ))}
        </Form.Select>
        <span className="soft fw-normal fs-6">{near.length}</span>
      </h2>
      {near.length === 0 ? (
        <p className="soft">
          Nobody is within {numeral(zone)} percent of {numeral(boundary.from)}.
        </p>
      ) : (
        <table className={`grid ${styles.near}`}>
          <thead>
            <tr>
              <th>student</th>
              <th className="number">stands at</th>
              <th className="number">from it</th>
              <th>sure of the grade</th>
            </tr>
          </thead>
          <tbody>
            {near.slice(0, shown).map((n) => {
              const own = oneMore.get(n.studentId)
              const says = [
                own && own.up.length > 0 && n.distance < 0 ? `one mark more in ${named(own.up)} reaches it` : '',
                own && own.down.length > 0 && n.distance >= 0 ? `one mark less in ${named(own.down)} loses it` : '',
                own
                  ? own.read === 0
                    ? 'no readings'
                    : own.twice === own.read
                      ? 'all read twice'
                      : `${own.twice} of ${own.read} read twice`
                  : '',
              ].filter(Boolean)
              return (
                <Fragment key={n.studentId}>
                  <tr>
                    <td>
                      <Link to={`/courses/${id}/students/${n.studentId}`}>{label(n.studentId)}</Link>
                    </td>
                    <td className="number fw-semibold">{fixed(n.percent)}</td>
                    <td className={`number ${n.distance < 0 ? 'soft' : ''}`}>{signed(n.distance)}</td>
                    <td>
                      <SureBar chance={sure ? sure.chance[place.get(n.studentId)!]! : null} />
                    </td>
                  </tr>
                  <tr>
                    <td colSpan={4} className="soft small">
                      {says.join(' · ')}
                    </td>
                  </tr>
                </Fragment>
              )
            })}
          </tbody>
        </table>
      )}
      {near.length > shown && (
        <button className="quiet-button mt-1" onClick={() => onShow(shown + AT_ONCE)}>
          Show more of the other {near.length - shown}
        </button>
      )}
      {exactly > 0 && (
        <p className="small mt-2 mb-0">
          {counted(exactly, 'student')} exactly on it: the limit belongs to {boundary.grade}.
        </p>
      )}
      {near.length > 0 && (
        <>
          <CarryPeople
            title={`Near ${boundary.grade}, ${numeral(boundary.from)}`}
            assessmentId={null}
            people={near.map((n) => ({ id: n.studentId, value: n.percent }))}
          />
          {once.length > 0 && (
            <p className="small mt-1 mb-0">
              <Link to={`/courses/${id}/reconcile?part=look-next`}>Where to look next</Link>{' '}
              <span className="soft">says which further reading would tell most.</span>
            </p>
          )}
        </>
      )}
    </section>
  )
})
