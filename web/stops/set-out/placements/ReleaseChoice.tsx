import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import type { Release } from '#contract'
import { DateField } from '../../../parts/DateField'
import { shownDay } from '../../../parts/format'
import styles from './placements.module.css'

const KINDS: [Release['kind'], string][] = [
  ['at once', 'at once'],
  ['on', 'on a date'],
  ['days', 'days after due'],
  ['confirmed', 'when confirmed'],
  ['by hand', 'by hand'],
]

export function releaseWords(r: Release): string {
  switch (r.kind) {
    case 'at once':
      return 'at once'
    case 'on':
      return `on ${shownDay(r.day, 'd MMM')}`
    case 'days':
      return r.days < 0 ? `${-r.days} days before due` : `${r.days} days after due`
    case 'confirmed':
      return 'when confirmed'
    case 'by hand':
      return r.released ? 'released by hand' : 'by hand, not yet'
  }
}

/** When students see what came of the chosen placements. */
export function ReleaseChoice({ releases, onRelease }: { releases: Release[]; onRelease: (release: Release) => void }) {
  const [open, setOpen] = useState(false)
  const [kind, setKind] = useState<Release['kind']>('confirmed')
  const [day, setDay] = useState('')
  const [days, setDays] = useState('7')
  const alike = new Set(releases.map((r) => JSON.stringify(r))).size <= 1
  const now = releases.length === 0 ? '–' : alike ? releaseWords(releases[0]!) : 'various'
  const give = (r: Release) => {
    onRelease(r)
    setOpen(false)
  }
  const chosen = (): Release | null => {
    if (kind === 'on') return day ? { kind, day } : null
    if (kind === 'days') return /^-?\d{1,3}$/.test(days.trim()) ? { kind, days: Number(days) } : null
    return kind === 'by hand' ? { kind, released: false } : { kind }
  }
  const release = chosen()
  return (
    <span className={styles.release}>
      <button className="quiet-button" aria-expanded={open} disabled={releases.length === 0} onClick={() => setOpen((o) => !o)}>
        released: <b>{now}</b>
      </button>
      {open && (
        <span className={styles.releasePanel}>
          <Form.Select
            size="sm"
            aria-label="When students see the result"
            value={kind}
            onChange={(e) => setKind(e.target.value as Release['kind'])}
          >
            {KINDS.map(([k, words]) => (
              <option key={k} value={k}>
                {words}
              </option>
            ))}
          </Form.Select>
          {kind === 'on' && <DateField label="Release day" value={day} onCommit={setDay} />}
          {kind === 'days' && (
            <Form.Control
              size="sm"
              style={{ width: 50 }}
              aria-label="Days after due; before with a minus"
              title="With a minus: before the due day"
              value={days}
              onChange={(e) => setDays(e.target.value)}
            />
          )}
          <Button size="sm" disabled={release === null} onClick={() => release && give(release)}>
            Give
          </Button>
          {releases.some((r) => r.kind === 'by hand' && !r.released) && (
            <Button size="sm" variant="outline-primary" onClick={() => give({ kind: 'by hand', released: true })}>
              Release now
            </Button>
          )}
        </span>
      )}
    </span>
  )
}
