import { Form } from 'react-bootstrap'
import type { OfKind } from '#core/rescale'
import { NumberField } from '../../../parts/NumberField'
import { Vial } from '../../../parts/Vial'
import { counted, signed } from '../../../parts/format'
import type { RescaleFigures } from '../figures'
import type { Rescaling } from '../useRescaling'
import styles from '../rescale.module.css'

interface Props {
  method: OfKind<'markerEffect'>
  figures: RescaleFigures
  rescaling: Rescaling
}

/** Whose lean is taken out of their readings, how sure it is, and how much of it. */
export function LeanForm({ method, figures: { leans, tolerance, subject }, rescaling }: Props) {
  const own = leans.find((m) => m.id === method.markerId)
  if (leans.length === 0) return <p className="small ochre">No marker has handed in a reading of {subject.title}.</p>
  const known = leans.filter((m) => m.effect !== null)
  const { interval } = own ?? {}
  const chance = interval && interval[0] <= 0 && interval[1] >= 0
  return (
    <div className={styles.form}>
      <label>
        of{' '}
        <Form.Select
          className="d-inline-block w-auto"
          size="sm"
          aria-label="Whose lean"
          value={method.markerId}
          onChange={(e) =>
            rescaling.setMethod({ ...method, markerId: e.target.value, effect: leans.find((m) => m.id === e.target.value)?.effect ?? 0 })
          }
        >
          {known.map((m) => (
            <option key={m.id} value={m.id}>
              {m.name}, {signed(m.effect)}
            </option>
          ))}
        </Form.Select>
      </label>
      {own && <Vial name={own.name} lean={own.effect} interval={own.interval} tolerance={tolerance} figure={false} />}
      <span>
        <NumberField
          label="How much of it in percent"
          value={Math.round(method.factor * 100)}
          min={0}
          max={100}
          step={10}
          onCommit={(p) => p !== null && rescaling.setMethod({ ...method, factor: p / 100 })}
        />{' '}
        % of {signed(method.effect)}, from {counted(own?.n ?? 0, 'reading')}
      </span>
      {own?.erratic && <span className="small ochre">They are erratic: no one figure mends their readings. Have scripts read again.</span>}
      {chance && <span className="small ochre">Their lean is within chance. There may be nothing to take out.</span>}
    </div>
  )
}
