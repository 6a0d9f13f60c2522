import { Dropdown, Form } from 'react-bootstrap'
import { counted } from '../../parts/format'
import type { RescaleFigures } from './figures'

interface Props {
  figures: Pick<RescaleFigures, 'sections'>
  /** Null for all. */
  chosen: readonly string[] | null
  onChoose: (sectionIds: string[] | null) => void
}

/** For which sections: of each student the one they were in on the day. One without marks cannot be chosen, and says so. */
export function SectionsPick({ figures: { sections }, chosen, onChoose }: Props) {
  const named = chosen?.map((id) => sections.find((s) => s.id === id)?.name ?? id)
  const words = !named ? 'all sections' : named.length <= 2 ? named.join(' and ') : counted(named.length, 'section')
  return (
    <Dropdown autoClose="outside">
      <Dropdown.Toggle size="sm" variant="link">
        <span className="soft fw-normal">for</span> {words}
      </Dropdown.Toggle>
      <Dropdown.Menu style={{ padding: 10, maxHeight: 320, overflow: 'auto' }}>
        <Form.Check id="all-sections" label="all sections" checked={chosen === null} onChange={() => onChoose(null)} />
        {sections.map((s) => (
          <Form.Check
            key={s.id}
            id={`covers-${s.id}`}
            label={s.n === 0 ? `${s.name}: has no marks to rescale` : s.name}
            disabled={s.n === 0}
            checked={chosen?.includes(s.id) ?? false}
            onChange={(e) => {
              const next = e.target.checked ? [...(chosen ?? []), s.id] : (chosen ?? []).filter((id) => id !== s.id)
              onChoose(next.length === 0 ? null : next)
            }}
          />
        ))}
      </Dropdown.Menu>
    </Dropdown>
  )
}
