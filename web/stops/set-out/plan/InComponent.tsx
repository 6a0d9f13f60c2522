import { Form } from 'react-bootstrap'
import type { Component } from '#contract'

interface Props {
  id: string
  components: readonly Component[]
  value: string
  onChange: (componentId: string) => void
}

/** Into which component an assessment goes. */
export const InComponent = ({ id, components, value, onChange }: Props) => (
  <Form.Group controlId={id}>
    <Form.Label className="soft small mb-0 d-block">Into the component</Form.Label>
    <Form.Select value={value} onChange={(e) => onChange(e.target.value)}>
      {components.map((c) => (
        <option key={c.id} value={c.id}>
          {c.title}
        </option>
      ))}
    </Form.Select>
  </Form.Group>
)
