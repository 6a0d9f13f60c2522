import { useQueryClient } from '@tanstack/react-query'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { Button, Form } from 'react-bootstrap'
import { readCellText, writeCellText } from '#core'
import type { Cell, Sheet } from '#contract'
import { useKeys } from '../../frame/keys'
import { usePersonLabels } from '../../frame/names'
import { useUndo } from '../../frame/undo'
import { DASH, fixed, plain } from '../../parts/format'
import { cellKey, useCellQueue, type CellEdit, type CellValue } from './cell-queue'
import { CellCloseUp } from './CellCloseUp'

const ROW = 30
type At = { row: number; column: number }
const EMPTY: CellValue = { mark: null, status: 'in', daysLate: 0 }

/** Students × assessments, typed like any sheet: arrows walk, typing enters, Enter goes down, paste takes a block. */
export function MarkSheet({ courseId, sheet, nav, onBringIn }: { courseId: string; sheet: Sheet; nav: ReactNode; onBringIn: () => void }) {
  const queries = useQueryClient()
  const { did } = useUndo()
  const label = usePersonLabels(sheet.students)
  const [sectionId, setSectionId] = useState('')
  const [only, setOnly] = useState<'all' | 'unmarked' | 'status'>('all')
  const [at, setAt] = useState<At>({ row: 0, column: 0 })
  const [typing, setTyping] = useState<string | null>(null)
  const [wrong, setWrong] = useState(new Map<string, { text: string; reason: string }>())
  const scroller = useRef<HTMLDivElement>(null)
  const afterSave = useCallback(() => void queries.invalidateQueries({ queryKey: ['table', courseId] }), [queries, courseId])
  const { write, refused, unsaved, forget } = useCellQueue(courseId, sheet, afterSave)

  const cells = useMemo(() => new Map(sheet.cells.map((c) => [cellKey(c), c])), [sheet.cells])
  const applies = useMemo(() => {
    const placed = new Set(sheet.placements.map((p) => `${p.assessmentId} ${p.sectionId}`))
    return (s: Sheet['students'][number], assessmentId: string) =>
      sheet.exceptions[s.id]?.includes(assessmentId) ?? placed.has(`${assessmentId} ${s.sectionId}`)
  }, [sheet.placements, sheet.exceptions])
  const columns = sheet.assessments
  const needsMark = useCallback(
    (c: Cell | undefined) => !c || ((c.status === 'in' || c.status === 'late') && c.mark === null && !c.fromReadings),
    [],
  )
  const rows = useMemo(() => {
    const own = sheet.students.filter((s) => sectionId === '' || s.sectionId === sectionId)
    if (only === 'all') return own
    return own.filter((s) =>
      columns.some((a) => {
        const c = cells.get(`${s.id} ${a.id}`)
        if (!applies(s, a.id)) return false
        return only === 'unmarked' ? needsMark(c) : !!c && c.status !== 'in' && c.status !== 'exempt'
      }),
    )
    // Rows stay while one types in them: the filter is read anew when it or the section is chosen.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [sheet.students, sectionId, only, columns, applies])

  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW,
    overscan: 12,
    scrollPaddingStart: 60,
  })
  const here = { row: Math.min(at.row, rows.length - 1), column: Math.min(at.column, columns.length - 1) }
  const student = rows[here.row]
  const assessment = columns[here.column]
  const cellAt = (row: number, column: number) =>
    rows[row] && columns[column] ? cells.get(`${rows[row].id} ${columns[column].id}`) : undefined
  const valueOf = (key: string): CellValue => unsaved.get(key) ?? cells.get(key) ?? EMPTY

  const go = useCallback(
    (row: number, column: number) => {
      const next = { row: Math.max(0, Math.min(rows.length - 1, row)), column: Math.max(0, Math.min(columns.length - 1, column)) }
      setAt(next)
      setTyping(null)
      virtual.scrollToIndex(next.row)
    },
    [rows.length, columns.length, virtual],
  )
  useEffect(() => {
    if (typing === null) scroller.current?.querySelector<HTMLElement>('[data-here]')?.focus({ preventScroll: true })
  }, [at, typing])

  const editable = (row: number, column: number): boolean => {
    const s = rows[row]
    const a = columns[column]
    return sheet.writable && !!s && !!a && applies(s, a.id)
  }
  const change = (edits: CellEdit[], what: string) => {
    const before = edits.map((e): CellEdit => ({ studentId: e.studentId, assessmentId: e.assessmentId, ...pick(valueOf(cellKey(e))) }))
    write(edits)
    did({ label: what, undo: () => write(before), redo: () => write(edits) })
  }
  /** What a typed text makes of a cell; null with the reason kept in the cell. */
  const understood = (row: number, column: number, text: string): CellEdit | null => {
    const a = columns[column]!
    const ids = { studentId: rows[row]!.id, assessmentId: a.id }
    const key = cellKey(ids)
    const was = valueOf(key)
    const typed = readCellText(text, a.outOf, false, a.labels && { labels: a.labels })
    if (typed.kind === 'wrong') {
      setWrong((old) => new Map(old).set(key, { text, reason: typed.reason }))
      return null
    }
    setWrong((old) => new Map([...old].filter(([k]) => k !== key)))
    forget(key)
    if (typed.kind === 'blank') return { ...ids, ...EMPTY }
    if (typed.kind === 'status') return { ...ids, mark: typed.status === 'held' ? was.mark : null, status: typed.status, daysLate: 0 }
    if (typed.kind === 'late') return { ...ids, mark: was.mark, status: 'late', daysLate: typed.daysLate }
    return { ...ids, mark: typed.mark, status: typed.status, daysLate: typed.daysLate }
  }
  const commit = (text: string) => {
    if (!editable(here.row, here.column)) return setTyping(null)
    const edit = understood(here.row, here.column, text)
    if (edit) change([edit], `mark of ${label(edit.studentId)}`)
    setTyping(null)
  }
  const paste = (text: string) => {
    const block = text
      .replace(/\r?\n$/, '')
      .split(/\r?\n/)
      .map((line) => line.split('\t'))
    const edits: CellEdit[] = []
    block.forEach((line, r) =>
      line.forEach((value, c) => {
        if (value.trim() === '' || !editable(here.row + r, here.column + c)) return
        const edit = understood(here.row + r, here.column + c, value)
        if (edit) edits.push(edit)
      }),
    )
    if (edits.length > 0) change(edits, `paste ${edits.length} cells`)
  }
  const setStatus = (value: CellValue) => {
    if (student && assessment && editable(here.row, here.column))
      change([{ studentId: student.id, assessmentId: assessment.id, ...value }], `status of ${label(student.id)}`)
  }

  useKeys([
    { key: 'b', does: 'bring in a file of marks', run: onBringIn },
    {
      key: 'Enter',
      does: 'in the sheet: edit, then commit and go down; a letter m, a, e, h sets missing, absent, exempt, held; “17 late 2” is late by two days',
      run: () => undefined,
    },
  ])

  const onKeyDown = (e: React.KeyboardEvent) => {
    if (typing !== null || e.altKey) return
    const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1], PageUp: [-15, 0], PageDown: [15, 0] }[e.key]
    if (step) go(here.row + step[0]!, here.column + step[1]!)
    else if (e.key === 'Home') go(e.ctrlKey ? 0 : here.row, 0)
    else if (e.key === 'End') go(e.ctrlKey ? rows.length - 1 : here.row, columns.length - 1)
    else if (e.ctrlKey || e.metaKey) return
    else if (!editable(here.row, here.column)) return
    else if (e.key === 'Enter' || e.key === 'F2') setTyping(shownText(here.row, here.column))
    else if (e.key === 'Delete' || e.key === 'Backspace') commit('')
    else if (/^[0-9.,maehl−-]$/i.test(e.key) || (assessment?.labels && /^\p{L}$/u.test(e.key))) setTyping(e.key)
    else return
    e.preventDefault()
    e.stopPropagation()
  }
  const shownText = (row: number, column: number) => {
    const key = `${rows[row]!.id} ${columns[column]!.id}`
    return wrong.get(key)?.text ?? writeCellText(valueOf(key))
  }

  const faults = wrong.size + refused.size
  const template = `70px minmax(150px, 1.4fr) repeat(${columns.length}, minmax(58px, 1fr))`
  const selected = student && assessment ? cells.get(`${student.id} ${assessment.id}`) : undefined
  return (
    <div className="work">
      <main className="table-side mark-side">
        <div className="stop-head">
          <h1>The mark sheet</h1>
          <span className="soft">
            {rows.length} of {sheet.students.length} students
            {faults > 0 && (
              <span className="brick">
                {' '}
                · {faults} {faults === 1 ? 'cell is' : 'cells are'} not saved: see the red {faults === 1 ? 'one' : 'ones'}
              </span>
            )}
          </span>
          <div className="end">
            <Form.Select size="sm" aria-label="Section" value={sectionId} onChange={(e) => setSectionId(e.target.value)}>
              <option value="">all sections</option>
              {sheet.sections.map((s) => (
                <option key={s.id} value={s.id}>
                  {s.name}
                </option>
              ))}
            </Form.Select>
            <Form.Select size="sm" aria-label="Which students" value={only} onChange={(e) => setOnly(e.target.value as typeof only)}>
              <option value="all">everyone</option>
              <option value="unmarked">with something unmarked</option>
              <option value="status">late, missing, absent or held</option>
            </Form.Select>
            {sheet.writable && (
              <Button variant="outline-primary" onClick={onBringIn}>
                Bring in a file <kbd>B</kbd>
              </Button>
            )}
          </div>
          {nav}
        </div>
        <div
          className="sheet"
          ref={scroller}
          role="grid"
          tabIndex={-1}
          aria-label="Marks"
          aria-rowcount={rows.length + 1}
          aria-colcount={columns.length + 2}
          onKeyDown={onKeyDown}
          onPaste={(e) => {
            if (typing !== null) return
            e.preventDefault()
            paste(e.clipboardData.getData('text/plain'))
          }}
        >
          <div className="sheet-row head-row" role="row" style={{ gridTemplateColumns: template }}>
            <div role="columnheader" className="soft">
              number
            </div>
            <div role="columnheader" className="soft">
              student
            </div>
            {columns.map((a) => (
              <div role="columnheader" key={a.id} className="num" title={`${a.title}, out of ${plain(a.outOf)}`}>
                <span className="title">{a.title}</span>
                <span className="soft">of {plain(a.outOf)}</span>
              </div>
            ))}
          </div>
          <div role="presentation" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
            {virtual.getVirtualItems().map(({ index, start }) => {
              const s = rows[index]!
              return (
                <div
                  key={s.id}
                  className="sheet-row"
                  role="row"
                  aria-rowindex={index + 2}
                  style={{ gridTemplateColumns: template, transform: `translateY(${start}px)`, position: 'absolute', left: 0, right: 0 }}
                >
                  <div role="rowheader" className="soft">
                    {s.candidate}
                  </div>
                  <div role="rowheader" className="name" title={label(s.id)}>
                    {label(s.id)}
                  </div>
                  {columns.map((a, column) => {
                    const key = `${s.id} ${a.id}`
                    const chosen = index === here.row && column === here.column
                    const cell = cells.get(key)
                    const value = valueOf(key)
                    const fault = wrong.get(key)?.reason ?? refused.get(key)?.message
                    const open = applies(s, a.id)
                    if (chosen && typing !== null)
                      return (
                        <CellInput
                          key={a.id}
                          label={`${a.title}, ${label(s.id)}`}
                          text={typing}
                          onCommit={(text, down, right) => {
                            commit(text)
                            go(here.row + down, here.column + right)
                          }}
                          onCancel={() => setTyping(null)}
                        />
                      )
                    return (
                      <div
                        key={a.id}
                        role="gridcell"
                        aria-selected={chosen}
                        tabIndex={chosen ? 0 : -1}
                        data-here={chosen || undefined}
                        className={`cell num ${!open ? 'not-set' : ''} ${fault ? 'fault' : ''} ${unsaved.has(key) ? 'unsaved' : ''} ${open && needsMark(cell) && !unsaved.has(key) ? 'pending' : ''}`}
                        title={fault ?? (cell?.fromReadings ? 'From readings: settled at Reconcile' : undefined)}
                        aria-label={`${a.title}, ${label(s.id)}: ${open ? spoken(value, cell) : 'not set'}${fault ? `. Not saved: ${fault}` : ''}`}
                        onMouseDown={() => go(index, column)}
                        onDoubleClick={() => editable(index, column) && setTyping(shownText(index, column))}
                      >
                        {wrong.get(key)?.text ??
                          (refused.get(key) ? (
                            writeCellText(refused.get(key)!.typed)
                          ) : (
                            <Shown value={value} cell={cell} open={open} passMark={a.passMark} />
                          ))}
                      </div>
                    )
                  })}
                </div>
              )
            })}
          </div>
          <Foot rows={rows} columns={columns} cells={cells} applies={applies} template={template} />
        </div>
      </main>
      <aside className="close-up" aria-label="Close-up">
        {student && assessment ? (
          <CellCloseUp
            courseId={courseId}
            student={{ label: label(student.id), id: student.id, candidate: student.candidate }}
            assessment={assessment}
            cell={cellAt(here.row, here.column) ?? null}
            value={selected ? valueOf(cellKey(selected)) : EMPTY}
            fault={wrong.get(`${student.id} ${assessment.id}`)?.reason ?? refused.get(`${student.id} ${assessment.id}`)?.message ?? null}
            writable={editable(here.row, here.column)}
            onSet={setStatus}
          />
        ) : (
          <p className="soft">Nobody matches. Choose another section or everyone.</p>
        )}
      </aside>
    </div>
  )
}

const pick = ({ mark, status, daysLate }: CellValue): CellValue => ({ mark, status, daysLate })

function spoken(value: CellValue, cell: Cell | undefined): string {
  if (cell?.fromReadings && value.status === 'in')
    return cell.fromReadings.mark === null ? 'readings not settled' : `${plain(cell.fromReadings.mark)} from readings`
  return writeCellText(value) || 'pending'
}

function Shown({ value, cell, open, passMark }: { value: CellValue; cell: Cell | undefined; open: boolean; passMark: number | null }) {
  if (!open) return null
  const mark = cell?.fromReadings ? cell.fromReadings.mark : value.mark
  const failed = mark !== null && passMark !== null && mark < passMark
  return (
    <>
      {value.status !== 'in' && (
        <small className={value.status === 'exempt' ? 'soft' : 'ochre'}>
          {value.status === 'late' ? `late ${value.daysLate}` : value.status}
        </small>
      )}
      {mark !== null ? (
        <span className={`${failed ? 'brick' : ''} ${cell?.fromReadings ? 'read' : ''}`}>
          <Aligned mark={mark} />
        </span>
      ) : cell?.fromReadings && value.status === 'in' ? (
        <small className="soft">open</small>
      ) : null}
    </>
  )
}

/** A mark with its point under the others'. */
function Aligned({ mark }: { mark: number }) {
  const [whole, part] = plain(mark).split('.')
  return (
    <>
      {whole}
      <span className="part">{part === undefined ? '' : `.${part}`}</span>
    </>
  )
}

function CellInput({
  label,
  text,
  onCommit,
  onCancel,
}: {
  label: string
  text: string
  onCommit: (text: string, down: number, right: number) => void
  onCancel: () => void
}) {
  const [value, setValue] = useState(text)
  const left = useRef(false)
  const leave = (down: number, right: number) => {
    if (left.current) return
    left.current = true
    onCommit(value, down, right)
  }
  return (
    <input
      className="cell num typing"
      aria-label={label}
      autoFocus
      value={value}
      onChange={(e) => setValue(e.target.value)}
      onBlur={() => leave(0, 0)}
      onKeyDown={(e) => {
        e.stopPropagation()
        if (e.key === 'Enter') leave(e.shiftKey ? -1 : 1, 0)
        else if (e.key === 'Tab') leave(0, e.shiftKey ? -1 : 1)
        else if (e.key === 'ArrowDown' || e.key === 'ArrowUp') leave(e.key === 'ArrowDown' ? 1 : -1, 0)
        else if (e.key === 'Escape') {
          left.current = true
          onCancel()
        } else return
        e.preventDefault()
      }}
    />
  )
}

/** Averages and counts under each column, of the rows shown. */
function Foot({
  rows,
  columns,
  cells,
  applies,
  template,
}: {
  rows: Sheet['students']
  columns: Sheet['assessments']
  cells: Map<string, Cell>
  applies: (s: Sheet['students'][number], assessmentId: string) => boolean
  template: string
}) {
  const figures = useMemo(
    () =>
      columns.map((a) => {
        let sum = 0
        let marked = 0
        let of = 0
        for (const s of rows) {
          if (!applies(s, a.id)) continue
          const c = cells.get(`${s.id} ${a.id}`)
          if (c && c.status !== 'in' && c.status !== 'late') continue
          of++
          const mark = c?.fromReadings ? c.fromReadings.mark : (c?.mark ?? null)
          if (mark !== null) {
            sum += mark
            marked++
          }
        }
        return { mean: marked > 0 ? sum / marked : null, marked, of }
      }),
    [rows, columns, cells, applies],
  )
  return (
    <div className="sheet-row foot-row" role="row" style={{ gridTemplateColumns: template }}>
      <div role="rowheader" />
      <div role="rowheader" className="soft">
        mean · marked of all
      </div>
      {figures.map((f, i) => (
        <div role="gridcell" className="num" key={columns[i]!.id}>
          <b>{f.mean === null ? DASH : fixed(f.mean)}</b>
          <small className={f.marked < f.of ? 'ochre' : 'soft'}>
            {f.marked}/{f.of}
          </small>
        </div>
      ))}
    </div>
  )
}
