import { createColumnHelper, flexRender, getCoreRowModel, useReactTable, type SortingState } from '@tanstack/react-table'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useMemo, useRef, useState } from 'react'
import { Form } from 'react-bootstrap'
import { currentSection, foldedName } from '#core/roll'
import type { Roll } from '#contract'
import { useNames, usePersonLabels } from '../../../settings/names'
import { rowHeight } from '../../../settings/appearance'
import { shownDay } from '../../../parts/format'
import styles from './roll.module.css'

interface Row {
  id: string
  candidate: string
  label: string
  section: string
  sectionId: string | null
  since: string
  externalId: string
}

const inOrder = new Intl.Collator('en', { numeric: true })
const column = createColumnHelper<Row>()
type Key = 'candidate' | 'label' | 'section' | 'since' | 'externalId'
const COLUMNS = [
  column.accessor('candidate', { header: 'candidate', size: 92 }),
  column.accessor('label', { header: 'name', size: 230 }),
  column.accessor('section', { header: 'section', size: 130 }),
  column.accessor('since', { header: 'since', size: 84, cell: (c) => (c.getValue() ? shownDay(c.getValue(), 'd MMM') : '') }),
  column.accessor('externalId', { header: 'external id', size: 110 }),
]

/** The students of a section or of all: found, sorted, walked with the arrow keys, thousands of rows without stutter. */
export function StudentsGrid({
  roll,
  sectionId,
  chosen,
  onChoose,
}: {
  roll: Roll
  sectionId: string | null
  chosen: string | null
  onChoose: (id: string) => void
}) {
  const { shown } = useNames()
  const label = usePersonLabels(roll.students)
  const [sorting, setSorting] = useState<SortingState>([])
  const [find, setFind] = useState('')
  const [withLeft, setWithLeft] = useState(false)
  const data = useMemo((): Row[] => {
    const names = new Map(roll.sections.map((s) => [s.id, s.name]))
    return roll.students.flatMap((s): Row[] => {
      const current = currentSection(s.stays)
      if (
        sectionId !== null ? current !== sectionId && !(withLeft && s.stays.at(-1)?.sectionId === sectionId) : current === null && !withLeft
      )
        return []
      return [
        {
          id: s.id,
          candidate: s.candidate,
          label: label(s.id),
          section: current === null ? 'left' : (names.get(current) ?? ''),
          sectionId: current,
          since: s.stays.at(-1)?.[current === null ? 'to' : 'from'] ?? '',
          externalId: s.externalId ?? '',
        },
      ]
    })
  }, [roll, sectionId, withLeft, label])
  const columns = useMemo(() => COLUMNS.filter((c) => shown === 'names' || c.accessorKey !== 'label'), [shown])
  const rows = useMemo(() => {
    const wanted = foldedName(find)
    const found = wanted === '' ? data : data.filter((r) => columns.some((c) => foldedName(r[c.accessorKey as Key]).includes(wanted)))
    const by = sorting[0]
    if (!by) return found
    const key = by.id as Key
    const sorted = found.toSorted((a, b) => inOrder.compare(a[key], b[key]))
    return by.desc ? sorted.reverse() : sorted
  }, [data, columns, find, sorting])
  const scroller = useRef<HTMLDivElement>(null)
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => rowHeight(),
    overscan: 20,
  })
  const inView = virtual.getVirtualItems()
  const first = inView[0]?.index ?? 0
  const last = inView.at(-1)?.index ?? -1
  // The table is given the rows in view alone: making a row of it for each of 12,000 students is felt.
  const table = useReactTable({
    data: useMemo(() => rows.slice(first, last + 1), [rows, first, last]),
    columns,
    state: { sorting },
    onSortingChange: setSorting,
    manualSorting: true,
    getCoreRowModel: getCoreRowModel(),
    getRowId: (r) => r.id,
  })
  const drawn = table.getRowModel().rows
  const at = rows.findIndex((r) => r.id === chosen)
  const walk = (to: number) => {
    const row = rows[Math.max(0, Math.min(rows.length - 1, to))]
    if (!row) return
    onChoose(row.id)
    virtual.scrollToIndex(rows.indexOf(row))
  }
  const template = columns.map((c) => (c.accessorKey === 'label' ? `minmax(${c.size}px, 1fr)` : `${c.size}px`)).join(' ')
  return (
    <div className={styles.students}>
      <div className="d-flex gap-3 align-items-center small mb-1">
        <Form.Control
          size="sm"
          style={{ maxWidth: 220 }}
          placeholder={shown === 'names' ? 'Find a name or number' : 'Find a number'}
          aria-label="Find a student on the roll"
          value={find}
          onChange={(e) => setFind(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'ArrowDown' || e.key === 'Enter') {
              e.preventDefault()
              scroller.current?.focus()
              walk(0)
            }
          }}
        />
        <Form.Check id="with-left" label="who left too" checked={withLeft} onChange={(e) => setWithLeft(e.target.checked)} />
        <span className="soft ms-auto">{rows.length} shown</span>
      </div>
      <div
        ref={scroller}
        className={styles.scroller}
        role="grid"
        aria-label="Students"
        aria-rowcount={rows.length + 1}
        tabIndex={0}
        aria-activedescendant={chosen ? `student-${chosen}` : undefined}
        onKeyDown={(e) => {
          const to = { ArrowDown: at + 1, ArrowUp: at - 1, PageDown: at + 15, PageUp: at - 15, Home: 0, End: rows.length - 1 }[e.key]
          if (to === undefined) return
          e.preventDefault()
          walk(to)
        }}
      >
        <div className={styles.gridHead} role="row" style={{ gridTemplateColumns: template }}>
          {table.getFlatHeaders().map((h) => (
            <div
              key={h.id}
              role="columnheader"
              aria-sort={{ asc: 'ascending', desc: 'descending' }[String(h.column.getIsSorted())] as 'ascending' | undefined}
            >
              <button onClick={h.column.getToggleSortingHandler()} title="Sort">
                {flexRender(h.column.columnDef.header, h.getContext())}
                {{ asc: ' ↑', desc: ' ↓' }[String(h.column.getIsSorted())]}
              </button>
            </div>
          ))}
        </div>
        <div style={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {inView.map((v) => {
            const row = drawn[v.index - first]
            if (!row) return null
            return (
              <div
                key={row.id}
                id={`student-${row.id}`}
                role="row"
                aria-rowindex={v.index + 2}
                aria-selected={row.id === chosen}
                className={`${styles.gridRow} ${row.original.sectionId === null ? styles.left : ''}`}
                style={{ gridTemplateColumns: template, transform: `translateY(${v.start}px)`, height: rowHeight() }}
                onClick={() => onChoose(row.id)}
              >
                {row.getVisibleCells().map((c) => (
                  <div key={c.id} role="gridcell" title={String(c.getValue())}>
                    {flexRender(c.column.columnDef.cell, c.getContext())}
                  </div>
                ))}
              </div>
            )
          })}
        </div>
        {rows.length === 0 && <p className="soft p-2">Nobody here is called that.</p>}
      </div>
    </div>
  )
}
