import { useVirtualizer } from '@tanstack/react-virtual'
import { useEffect, useId, useRef, useState } from 'react'
import { writeWeekdays } from '#core/exchange/weekdays'
import type { PlacementFinding } from '#core/roll'
import type { Plan } from '#contract'
import { spotKey, type Placed } from './edits'
import { contains, spotsOf, stepped, type Selection } from './selection'
import { rowHeight } from '../../../settings/appearance'
import { shownDay } from '../../../parts/format'
import styles from './placements.module.css'

const COLUMN = 82
const TITLE = 168
const HEAD = 42

interface Props {
  plan: Plan
  placed: Map<string, Placed>
  found: Map<string, PlacementFinding>
  chosen: Selection
  onChoose: (selection: Selection) => void
  /** Lays what was typed over what is chosen; null where nothing may be typed. */
  onType: ((text: string) => boolean) | null
  onPaste: ((text: string) => void) | null
}

/** A day in a cell: weekday and date, without the year. */
const shown = (due: string) => shownDay(due, 'EEEEEE d MMM')

/** Assessments by sections, rows and columns drawn only where they are in sight. */
export function Board({ plan, placed, found, chosen, onChoose, onType, onPaste }: Props) {
  const { assessments, sections } = plan
  const scroller = useRef<HTMLDivElement>(null)
  const [typing, setTyping] = useState<string | null>(null)
  const ids = useId()
  const rows = useVirtualizer({
    count: assessments.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight(),
    overscan: 6,
    scrollPaddingStart: HEAD,
  })
  const columns = useVirtualizer({
    horizontal: true,
    count: sections.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => COLUMN,
    overscan: 4,
    scrollPaddingStart: TITLE,
  })
  const { a: atRow, s: atColumn } = chosen.to
  useEffect(() => {
    rows.scrollToIndex(atRow)
    columns.scrollToIndex(atColumn)
    // The virtualizers are the same all along; what matters is where the choice has gone.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [atRow, atColumn])

  const commit = () => {
    const done = typing === null || typing.trim() === '' || onType?.(typing)
    if (!done) return
    setTyping(null)
    scroller.current?.focus()
  }
  const keys = (e: React.KeyboardEvent) => {
    if (typing !== null) return
    const next = stepped(chosen, e.key, e.shiftKey, { rows: assessments.length, columns: sections.length })
    if (next) {
      e.preventDefault()
      onChoose(next)
    } else if ((e.ctrlKey || e.metaKey) && e.key === 'a') {
      e.preventDefault()
      onChoose({ from: { a: 0, s: 0 }, to: { a: assessments.length - 1, s: sections.length - 1 } })
    } else if (e.key === 'Escape') scroller.current?.blur()
    else if (e.key === 'Enter' && onType) {
      e.preventDefault()
      setTyping(placed.get(spotKey(atRow, atColumn))?.due ?? '')
    } else if (onType && !e.ctrlKey && !e.metaKey && !e.altKey && /^[\p{L}\d]$/u.test(e.key)) {
      e.preventDefault()
      // Digits and letters begin a day here, whatever else they do elsewhere.
      e.stopPropagation()
      e.nativeEvent.stopImmediatePropagation()
      setTyping(e.key)
    }
  }
  const copy = () =>
    spotsOf(chosen)
      .reduce<string[][]>((lines, { a, s }) => {
        const row = a - Math.min(chosen.from.a, chosen.to.a)
        ;(lines[row] ??= []).push(placed.get(spotKey(a, s))?.due ?? '')
        return lines
      }, [])
      .map((line) => line.join('\t'))
      .join('\n')
  const choose = (a: number, s: number, extend: boolean) => onChoose({ from: extend ? chosen.from : { a, s }, to: { a, s } })
  const whole = (from: Selection['from'], to: Selection['to']) => {
    onChoose({ from, to })
    scroller.current?.focus()
  }
  return (
    <div
      ref={scroller}
      className={styles.board}
      role="grid"
      aria-label="Due days"
      aria-rowcount={assessments.length + 1}
      aria-colcount={sections.length + 1}
      aria-multiselectable
      // The focus stays on the board; the chosen cell is what is spoken.
      aria-activedescendant={typing === null ? `${ids}${atRow}-${atColumn}` : undefined}
      tabIndex={0}
      onKeyDown={keys}
      onPaste={(e) => {
        if (typing !== null || !onPaste) return
        e.preventDefault()
        onPaste(e.clipboardData.getData('text/plain'))
      }}
      onCopy={(e) => {
        if (typing !== null) return
        e.preventDefault()
        e.clipboardData.setData('text/plain', copy())
      }}
    >
      <div style={{ width: TITLE + columns.getTotalSize(), height: HEAD + rows.getTotalSize(), position: 'relative' }}>
        <div className={styles.boardHead} role="row" style={{ height: HEAD }}>
          <div role="columnheader" className={styles.corner} style={{ width: TITLE }}>
            {shownDay(plan.head.firstDay, 'd MMM')} to {shownDay(plan.head.lastDay, 'd MMM')}
          </div>
          {columns.getVirtualItems().map((c) => {
            const section = sections[c.index]!
            return (
              <button
                key={c.key}
                role="columnheader"
                tabIndex={-1}
                style={{ left: TITLE + c.start, width: COLUMN }}
                title={`${section.name}: choose the whole column`}
                onClick={() => whole({ a: 0, s: c.index }, { a: assessments.length - 1, s: c.index })}
              >
                <span>{section.name}</span>
                <span className="small soft">{writeWeekdays(section.weekdays) || 'any day'}</span>
              </button>
            )
          })}
        </div>
        {rows.getVirtualItems().map((r) => (
          <div
            key={r.key}
            role="row"
            aria-rowindex={r.index + 2}
            className={styles.boardRow}
            style={{ top: HEAD + r.start, height: rowHeight() }}
          >
            <button
              role="rowheader"
              tabIndex={-1}
              className={styles.title}
              style={{ width: TITLE }}
              title={`${assessments[r.index]!.title}: choose the whole row`}
              onClick={() => whole({ a: r.index, s: 0 }, { a: r.index, s: sections.length - 1 })}
            >
              {assessments[r.index]!.title}
            </button>
            {columns.getVirtualItems().map((c) => {
              const key = spotKey(r.index, c.index)
              const p = placed.get(key)
              const finding = found.get(key)
              const here = atRow === r.index && atColumn === c.index
              const section = sections[c.index]!.name
              return (
                <div
                  key={c.key}
                  id={`${ids}${r.index}-${c.index}`}
                  role="gridcell"
                  aria-colindex={c.index + 2}
                  aria-selected={contains(chosen, r.index, c.index)}
                  aria-label={`${assessments[r.index]!.title}, ${section}: ${p ? (p.due ? shownDay(p.due, 'EEEE d MMM yyyy') : 'no date') : 'not set'}${finding ? `. ${finding.message}` : ''}`}
                  className={`${styles.cell} ${p ? '' : styles.unset} ${finding ? styles.odd : ''} ${here ? styles.here : ''}`}
                  style={{ left: TITLE + c.start, width: COLUMN }}
                  title={finding?.message}
                  onMouseDown={(e) => {
                    if (typing !== null && here) return
                    choose(r.index, c.index, e.shiftKey)
                  }}
                  onMouseEnter={(e) => e.buttons === 1 && typing === null && choose(r.index, c.index, true)}
                  onDoubleClick={() => onType && setTyping(p?.due ?? '')}
                >
                  {here && typing !== null ? (
                    <input
                      autoFocus
                      aria-label="Day"
                      value={typing}
                      onChange={(e) => setTyping(e.target.value)}
                      onBlur={() => setTyping(null)}
                      onKeyDown={(e) => {
                        e.stopPropagation()
                        if (e.key === 'Enter') commit()
                        else if (e.key === 'Escape') {
                          setTyping(null)
                          scroller.current?.focus()
                        }
                      }}
                    />
                  ) : p ? (
                    p.due ? (
                      shown(p.due)
                    ) : (
                      <i>no date</i>
                    )
                  ) : (
                    '·'
                  )}
                </div>
              )
            })}
          </div>
        ))}
      </div>
    </div>
  )
}
