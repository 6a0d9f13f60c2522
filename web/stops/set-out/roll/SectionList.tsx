import { useVirtualizer } from '@tanstack/react-virtual'
import { useMemo, useRef, useState } from 'react'
import { Form } from 'react-bootstrap'
import { writeWeekdays } from '#core/exchange/weekdays'
import { currentSection, foldedName } from '#core/roll'
import type { Roll } from '#contract'
import styles from './roll.module.css'

const ROW = 44

/** The sections with who teaches them and how many are in them; choosing one shows its students alone. */
export function SectionList({ roll, chosen, onChoose }: { roll: Roll; chosen: string | null; onChoose: (id: string | null) => void }) {
  const [find, setFind] = useState('')
  const scroller = useRef<HTMLDivElement>(null)
  const counts = useMemo(() => {
    const n = new Map<string, number>()
    for (const s of roll.students) {
      const id = currentSection(s.stays)
      if (id !== null) n.set(id, (n.get(id) ?? 0) + 1)
    }
    return n
  }, [roll.students])
  const shown = useMemo(() => {
    const wanted = foldedName(find)
    return roll.sections.filter((s) => foldedName(`${s.code} ${s.name} ${s.teacher ?? ''}`).includes(wanted))
  }, [roll.sections, find])
  const rows = useVirtualizer({ count: shown.length, getScrollElement: () => scroller.current, estimateSize: () => ROW, overscan: 8 })
  return (
    <div className={styles.sections}>
      {roll.sections.length > 12 && (
        <Form.Control
          size="sm"
          placeholder="Find a section"
          aria-label="Find a section"
          value={find}
          onChange={(e) => setFind(e.target.value)}
        />
      )}
      <button className={`${styles.sectionRow} ${styles.all}`} aria-pressed={chosen === null} onClick={() => onChoose(null)}>
        <b>All sections</b>
      </button>
      <div ref={scroller} className={styles.scroller}>
        <div style={{ height: rows.getTotalSize(), position: 'relative' }}>
          {rows.getVirtualItems().map((v) => {
            const s = shown[v.index]!
            return (
              <button
                key={s.id}
                className={styles.sectionRow}
                style={{ position: 'absolute', top: v.start, left: 0, right: 0, height: ROW }}
                aria-pressed={chosen === s.id}
                onClick={() => onChoose(s.id)}
              >
                <span className={styles.line}>
                  <b title={s.name}>{s.name}</b>
                  <span className="number">{counts.get(s.id) ?? 0}</span>
                </span>
                <span className={`${styles.line} small soft`}>
                  <span>{s.teacher ?? <span className="ochre">nobody teaches it</span>}</span>
                  <span>{writeWeekdays(s.weekdays)}</span>
                </span>
              </button>
            )
          })}
        </div>
      </div>
    </div>
  )
}
