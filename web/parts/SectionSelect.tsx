import { Form } from 'react-bootstrap'

interface Props {
  sections: readonly { id: string; name: string }[]
  /** Nothing for all of them. */
  value: string
  onChange: (sectionId: string) => void
  className?: string
}

/** Keeps a list to one section. */
export const SectionSelect = ({ sections, value, onChange, className }: Props) => (
  <Form.Select size="sm" className={className} aria-label="Section" value={value} onChange={(e) => onChange(e.target.value)}>
    <option value="">all sections</option>
    {sections.map((s) => (
      <option key={s.id} value={s.id}>
        {s.name}
      </option>
    ))}
  </Form.Select>
)
