import { useState } from 'react'
import { Dropdown } from 'react-bootstrap'
import type { Adjustment } from '#core/rescale'
import type { Change } from '#core/trial'
import { useDecidedCourse, useFigures } from '../../course/course'
import { counted } from '../../parts/format'

/** Does the same in another assessment, or in all of the component alike: on the scale of each, fixed by its own marks. */
export function CopyTo({ adjustment: a }: { adjustment: Adjustment }) {
  const { table, propose } = useDecidedCourse()
  const [open, setOpen] = useState(false)
  const own = table.assessments.find((x) => x.id === a.assessmentId)
  const others = table.assessments.filter((x) => x.id !== a.assessmentId)
  // Criteria are those of what one assessment is marked by.
  const can = own && a.method.kind !== 'without' && a.method.kind !== 'grant'
  const copies = useFigures('rescaleCopies', open && can ? a.id : '', open && can ? others.map((x) => x.id) : NONE)
  if (!can) return null
  const inComponent = others.filter((x) => x.componentId === own.componentId)
  const copy = (ids: readonly string[], label: string) => {
    const changes = (copies ?? []).flatMap((c): Change[] =>
      ids.includes(c.assessmentId!) ? [{ kind: 'adjust', adjustment: { ...c, id: crypto.randomUUID() } }] : [],
    )
    if (changes.length > 0) propose(changes, label)
  }
  return (
    <Dropdown onToggle={setOpen}>
      <Dropdown.Toggle size="sm" variant="link">
        Copy to
      </Dropdown.Toggle>
      <Dropdown.Menu style={{ maxHeight: 320, overflow: 'auto' }}>
        {inComponent.length > 0 && (
          <Dropdown.Item
            onClick={() =>
              copy(
                inComponent.map((x) => x.id),
                'the same in the whole component',
              )
            }
          >
            the other {counted(inComponent.length, 'assessment')} of its component, alike
          </Dropdown.Item>
        )}
        {inComponent.length > 0 && <Dropdown.Divider />}
        {others.map((x) => (
          <Dropdown.Item key={x.id} onClick={() => copy([x.id], `the same in ${x.title}`)}>
            {x.title}
          </Dropdown.Item>
        ))}
      </Dropdown.Menu>
    </Dropdown>
  )
}

const NONE: string[] = []
