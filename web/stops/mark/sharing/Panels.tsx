import { X } from 'lucide-react'
import { Form } from 'react-bootstrap'
import type { Sharing } from '#contract'
import styles from './sharing.module.css'

interface Props {
  panels: string[][]
  markers: Sharing['loads']
  onSet: (panels: string[][]) => void
}

/** Who sits on which panel: all of a panel read each of its scripts. */
export function Panels({ panels, markers, onSet }: Props) {
  const nameOf = new Map(markers.map((m) => [m.id, m.name]))
  const set = (at: number, members: string[]) => onSet(panels.map((p, i) => (i === at ? members : p)))
  return (
    <ol className={styles.panels}>
      {panels.map((members, i) => (
        <li key={i}>
          <span className="soft">Panel {i + 1}</span>
          {members.map((id) => (
            <button
              key={id}
              className={styles.panelMember}
              aria-label={`Take ${nameOf.get(id)} off panel ${i + 1}`}
              onClick={() =>
                set(
                  i,
                  members.filter((m) => m !== id),
                )
              }
            >
              {nameOf.get(id)} <X size={12} aria-hidden />
            </button>
          ))}
          <Form.Select
            size="sm"
            aria-label={`Put somebody on panel ${i + 1}`}
            value=""
            onChange={(e) => set(i, [...members, e.target.value])}
          >
            <option value="">add a marker</option>
            {markers
              .filter((m) => !members.includes(m.id))
              .map((m) => (
                <option key={m.id} value={m.id}>
                  {m.name}
                  {panels.some((p) => p.includes(m.id)) ? ' (sits on another)' : ''}
                </option>
              ))}
          </Form.Select>
          {panels.length > 1 && (
            <button className="quiet-button" onClick={() => onSet(panels.filter((_, at) => at !== i))}>
              drop it
            </button>
          )}
        </li>
      ))}
      <li>
        <button className="quiet-button" onClick={() => onSet([...panels, []])}>
          another panel
        </button>
      </li>
    </ol>
  )
}
