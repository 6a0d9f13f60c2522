import { Form } from 'react-bootstrap'
import type { Component } from '#contract'
import { NumberField } from '../../../parts/NumberField'
import type { PlanEdits } from './edits'
import { TitleField } from '../../../parts/TitleField'
import styles from './plan.module.css'

/** A component's row: what it weighs, how its assessments are combined, how many of the worst are dropped. */
export function ComponentRow({
  component: c,
  holds,
  odd,
  edits,
}: {
  component: Component
  holds: number
  /** What is odd about its sums; empty where nothing is. */
  odd: string
  edits: PlanEdits
}) {
  const { mayDecide } = edits
  return (
    <tr className={styles.component}>
      <td colSpan={2}>
        <TitleField
          label={`Title of the component ${c.title}`}
          value={c.title}
          disabled={!mayDecide}
          onCommit={(title) => void edits.editComponent(c, { title })}
        />
      </td>
      <td className="soft text-nowrap">
        <Form.Select
          size="sm"
          aria-label={`How ${c.title} combines`}
          value={c.combine}
          disabled={!mayDecide}
          onChange={(e) => edits.shape(c, { combine: e.target.value as Component['combine'] })}
        >
          <option value="byWorth">by worth</option>
          <option value="equally">all alike</option>
        </Form.Select>
      </td>
      <td colSpan={2} className="number soft">
        {c.weight === null ? <span className="ochre">weight is missing</span> : c.bonus ? 'adds up to' : 'weighs'}
      </td>
      <td className="number">
        <NumberField
          label={`Weight of ${c.title}`}
          value={c.weight}
          missing
          min={0}
          max={1000}
          disabled={!mayDecide}
          onCommit={(w) => w !== null && edits.weigh([{ component: c, weight: w }], `weigh ${c.title}`)}
        />
      </td>
      <td colSpan={3} className="soft">
        <span className={styles.componentShape}>
          drops{' '}
          <NumberField
            label={`How many of the worst ${c.title} drops`}
            className="short"
            value={c.dropLowest}
            min={0}
            max={50}
            disabled={!mayDecide}
            onCommit={(dropLowest) => dropLowest !== null && edits.shape(c, { dropLowest })}
          />
          <Form.Check
            id={`bonus-${c.id}`}
            label="bonus"
            checked={c.bonus}
            disabled={!mayDecide}
            onChange={(e) => edits.shape(c, { bonus: e.target.checked })}
          />
          {holds === 0 && mayDecide && (
            <button
              className="quiet-button ochre"
              onClick={() => void edits.removeComponent(c)}
              title="It holds no assessment and carries nothing"
            >
              empty: take away
            </button>
          )}
        </span>
        {odd && <span className="ochre small d-block text-wrap">{odd}</span>}
      </td>
    </tr>
  )
}
