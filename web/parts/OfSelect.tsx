import { Form } from 'react-bootstrap'
import type { TablePlan } from '#contract'

interface Props {
  table: Pick<TablePlan, 'components' | 'assessments'>
  value: string
  onChange: (id: string) => void
  /** Also components and the course, not assessments alone. */
  whole?: { id: string; title: string }
  label?: string
}

/** What a screen is about: an assessment, and where it makes sense a component or the course. */
export function OfSelect({ table, value, onChange, whole, label = 'What is shown' }: Props) {
  return (
    <Form.Select size="sm" aria-label={label} value={value} onChange={(e) => onChange(e.target.value)}>
      {whole && <option value={whole.id}>{whole.title}</option>}
      {whole && (
        <optgroup label="components">
          {table.components.map((c) => (
            <option key={c.id} value={c.id}>
              {c.title} (all)
            </option>
          ))}
        </optgroup>
      )}
      <optgroup label="assessments">
        {table.assessments.map((a) => (
          <option key={a.id} value={a.id}>
            {a.title}
          </option>
        ))}
      </optgroup>
    </Form.Select>
  )
}
