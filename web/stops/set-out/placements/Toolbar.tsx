import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { LayOut } from '#core/roll'
import type { Plan } from '#contract'
import { counted } from '../../../parts/format'
import { spotKey, type Placed, type PlacementEdits, type Spot } from './edits'
import { ReleaseChoice } from './ReleaseChoice'
import { DateField } from '../../../parts/DateField'
import styles from './placements.module.css'

interface Props {
  plan: Plan
  spots: Spot[]
  placed: Map<string, Placed>
  edits: PlacementEdits
  onType: (text: string) => boolean
  onLay: (how: LayOut) => void
}

const SHIFTS = [
  [-7, '−1 week', '['],
  [-1, '−1 day', '-'],
  [1, '+1 day', '+'],
  [7, '+1 week', ']'],
] as const

/** What can be done with the chosen placements, all at once. */
export function Toolbar({ plan, spots, placed, edits, onType, onLay }: Props) {
  const [text, setText] = useState('')
  const [onOrAfter, setOnOrAfter] = useState(plan.head.firstDay)
  const there = spots.flatMap(({ a, s }) => placed.get(spotKey(a, s)) ?? [])
  const unset = spots.filter(({ a, s }) => !placed.has(spotKey(a, s)))
  return (
    <div className={styles.placementTools}>
      <b className="number">{counted(spots.length, 'cell')}</b>
      <form
        onSubmit={(e) => {
          e.preventDefault()
          if (text.trim() !== '' && onType(text)) setText('')
        }}
      >
        <Form.Control
          size="sm"
          style={{ width: 96 }}
          placeholder="12 Oct or w6"
          aria-label="Day or week for the chosen cells"
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
        <Button size="sm" variant="outline-primary" type="submit">
          Set
        </Button>
      </form>
      <form
        onSubmit={(e) => {
          e.preventDefault()
          if (onOrAfter) onLay({ kind: 'first meeting', onOrAfter })
        }}
      >
        <label htmlFor="first-meeting" className="soft small">
          first meeting from
        </label>
        <DateField id="first-meeting" value={onOrAfter} onCommit={setOnOrAfter} />
        <Button size="sm" variant="outline-primary" type="submit">
          Set
        </Button>
      </form>
      <span className={styles.shifts} role="group" aria-label="Shift the chosen days">
        {SHIFTS.map(([days, words, key]) => (
          <button
            key={days}
            disabled={there.length === 0}
            title={`Shift by ${words} (${key})`}
            onClick={() => onLay({ kind: 'shift', days })}
          >
            {words}
          </button>
        ))}
      </span>
      <ReleaseChoice releases={there.map((p) => p.release)} onRelease={(r) => edits.release(spots, r)} />
      {unset.length > 0 && (
        <Button size="sm" variant="outline-primary" onClick={() => edits.place(unset)}>
          Set without a day
        </Button>
      )}
      {there.length > 0 && (
        <Button size="sm" variant="link" title="Take off (Delete)" onClick={() => edits.takeOff(spots)}>
          Take off
        </Button>
      )}
    </div>
  )
}
