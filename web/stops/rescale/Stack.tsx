import { Form } from 'react-bootstrap'
import type { Adjustment } from '#core/rescale'
import type { Assessment } from '#contract'
import { useCourse } from '../../course/course'
import { methodInWords } from './methods/forms'

const words = ({ method }: Adjustment): string => methodInWords(method)

/** The adjustments of an assessment in their order; each can be switched off, as a trial. */
export function Stack({ assessment, trying }: { assessment: Assessment; trying: Adjustment | null }) {
  const { table, trial, propose, setTrial, mayDecide } = useCourse()
  const adopted = table.adjustments.filter((a) => a.assessmentId === assessment.id)
  if (adopted.length === 0 && !trying) return null
  const isOn = (a: Adjustment) => trial.changes.reduce((on, c) => (c.kind === 'switch' && c.adjustmentId === a.id ? c.on : on), a.on)
  const flip = (a: Adjustment) => {
    const on = !isOn(a)
    const label = `switch ${words(a)} ${on ? 'on' : 'off'}`
    if (on === a.on)
      setTrial(
        trial.changes.filter((c) => c.kind !== 'switch' || c.adjustmentId !== a.id),
        label,
      )
    else propose([{ kind: 'switch', adjustmentId: a.id, on }], label)
  }
  const where = (a: Adjustment) =>
    a.sectionIds ? `, ${a.sectionIds.map((s) => table.sections.find((x) => x.id === s)?.name).join(', ')}` : ''
  return (
    <section>
      <h2>The stack</h2>
      <ol className="stack">
        {adopted.map((a, i) => (
          <li key={a.id}>
            <Form.Check
              type="switch"
              id={`on-${a.id}`}
              checked={isOn(a)}
              disabled={!mayDecide}
              onChange={() => flip(a)}
              label={`${i + 1} · ${words(a)}${where(a)}`}
            />
            <span className="soft small">{isOn(a) === a.on ? (a.on ? 'adopted' : 'switched off') : 'switching, not adopted yet'}</span>
          </li>
        ))}
        {trying && (
          <li className="trying">
            <b>
              {adopted.length + 1} · {words(trying)}
              {where(trying)}
            </b>
            <span className="soft small">trying</span>
          </li>
        )}
      </ol>
    </section>
  )
}
