import { useCallback, useMemo, useRef, useState, type ReactNode } from 'react'
import type { SheetByCell } from '#contract'
import { useLocation } from 'react-router'
import { useSignedIn } from '../../../session/ahead'
import { useKeys } from '../../../settings/keys'
import { usePersonLabels } from '../../../settings/names'
import { carriedIn } from '../../../parts/carried'
import { CarriedHere } from '../../../parts/CarriedHere'
import { counted } from '../../../parts/format'
import { useStable } from '../../../parts/useStable'
import { BringIn } from './BringIn'
import { CellCloseUp } from './CellCloseUp'
import { cellsOf } from './cells'
import type { CountsAs } from './counts-as'
import { useFiguresIfKnown } from '../../../course/course'
import { rowsOf, type Only, type Wanted } from './rows'
import { SheetGrid, type At } from './SheetGrid'
import { MarksShown } from './MarksShown'
import { SheetTools } from './SheetTools'
import { useFaults } from './useFaults'
import { useSheetEdits } from './useSheetEdits'
import { CloseUp } from '../../../parts/CloseUp'
import styles from './sheet.module.css'
import { Spoken } from '../../../parts/Spoken'

const NONE_RESCALED: CountsAs = new Map()

/** Students × assessments, typed like any sheet: arrows walk, typing enters, Enter goes down, paste takes a block. */
export function MarkSheet({ courseId, sheet, nav }: { courseId: string; sheet: SheetByCell; nav: ReactNode }) {
  const me = useSignedIn()
  const label = usePersonLabels(sheet.students)
  const [sectionId, setSectionId] = useState('')
  const [only, setOnly] = useState<Only>('all')
  const [carried, setCarried] = useState(carriedIn(useLocation()))
  const carriedIds = useMemo(() => carried && new Set(carried.studentIds), [carried])
  const [ofId, setOf] = useState(carried?.assessmentId ?? '')
  const [sort, setSort] = useState<Wanted['sort']>(null)
  const [at, setAt] = useState<At>({ row: 0, column: 0 })
  const [bringing, setBringing] = useState(false)
  /** What a cell began with as one types in it, and the rows as they were then: nobody moves from under what is typed. */
  const [typed, setTyped] = useState<{ text: string; rows: SheetByCell['students'] } | null>(null)
  const typing = typed?.text ?? null
  /** The version of the cell when one began to type in it: what somebody puts there meanwhile is not written over unseen. */
  const readAt = useRef(0)
  const grid = useRef<{ reveal: (at: At) => void }>(null)
  const cells = cellsOf(sheet)
  const of = ofId === '' || cells.columnOf(ofId) < 0 ? null : cells.columnOf(ofId)
  const { assessments } = sheet
  const places = useMemo(() => (of === null ? assessments.map((_, i) => i) : [of]), [assessments, of])
  const columns = useMemo(() => places.map((i) => assessments[i]!), [assessments, places])
  const { students } = sheet
  const found = useMemo(
    () => rowsOf(students, assessments, cells, { sectionId, only, assessment: of, sort, carried: carriedIds ?? null }),
    [students, assessments, cells, sectionId, only, of, sort, carriedIds],
  )
  const rows = typed?.rows ?? found

  const rescaled = useFiguresIfKnown('countsAs') ?? NONE_RESCALED
  const [asCounted, setAsCounted] = useState(false)
  const here = { row: Math.min(at.row, rows.length - 1), column: Math.min(at.column, columns.length - 1) }
  const student = rows[here.row]
  const assessment = columns[here.column]
  const edits = useSheetEdits(courseId, me.id, { sheet, cells, rows, columns, places, label })
  const { refused, unsaved, wrong, left } = edits
  const { faults, lastFault } = useFaults(refused, wrong, assessments, label)

  const go = useCallback(
    (row: number, column: number) => {
      const next = { row: Math.max(0, Math.min(rows.length - 1, row)), column: Math.max(0, Math.min(columns.length - 1, column)) }
      setAt(next)
      setTyped(null)
      grid.current?.reveal(next)
    },
    [rows.length, columns.length],
  )
  const commit = (text: string) => {
    edits.type(here.row, here.column, text, readAt.current)
    setTyped(null)
  }
  const begin = (row: number, column: number, text: string) => {
    readAt.current = edits.versionAt(row, column)
    setTyped({ text, rows })
  }
  const fillDown = () => edits.fillDown(here.row, here.column)

  useKeys([
    { key: 'b', does: 'bring in a file of marks', run: () => setBringing(true) },
    {
      key: 'Enter',
      does: 'in the sheet: edit, then commit and go down; a letter m, a, e, h sets missing, absent, exempt, held; “17 late 2” is late by two days',
    },
    { key: 'Ctrl+d', does: 'fill the blanks beneath with what stands here', run: fillDown },
  ])

  const type = (row: number, column: number) => edits.isEditable(row, column) && begin(row, column, edits.textAt(row, column))
  const onKeyDown = (e: React.KeyboardEvent) => {
    if (typing !== null || e.altKey || (e.target as HTMLElement).matches(`.${styles.headRow} button`)) return
    const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1], PageUp: [-15, 0], PageDown: [15, 0] }[e.key]
    if (step) go(here.row + step[0]!, here.column + step[1]!)
    else if (e.key === 'Home') go(e.ctrlKey ? 0 : here.row, 0)
    else if (e.key === 'End') go(e.ctrlKey ? rows.length - 1 : here.row, columns.length - 1)
    else if (e.ctrlKey || e.metaKey) return
    else if (!edits.isEditable(here.row, here.column)) return
    else if (e.key === 'Enter' || e.key === 'F2') type(here.row, here.column)
    else if (e.key === 'Delete' || e.key === 'Backspace') {
      begin(here.row, here.column, '')
      commit('')
    } else if (/^[0-9.,maehl−-]$/i.test(e.key) || (assessment?.labels && /^\p{L}$/u.test(e.key))) begin(here.row, here.column, e.key)
    else return
    e.preventDefault()
    e.stopPropagation()
  }

  // Rows are drawn anew only for what is in them: what they call stays the same.
  const onType = useStable((row: number, column: number) => void type(row, column))
  const onCommit = useStable((text: string, down: number, right: number) => {
    commit(text)
    go(here.row + down, here.column + right)
  })
  const onCancel = useCallback(() => setTyped(null), [])

  const key = student && assessment ? `${student.id} ${assessment.id}` : ''
  return (
    <div className="work">
      <main className={`table-side ${styles.markSide}`}>
        <Spoken>{lastFault}</Spoken>
        <div className="stop-head">
          <h1>The mark sheet</h1>
          <span className="soft">
            {rows.length} of {counted(sheet.students.length, 'student')}
            {faults > 0 && (
              <span className="brick">
                {' '}
                · {faults} {faults === 1 ? 'cell is' : 'cells are'} not saved: see the red {faults === 1 ? 'one' : 'ones'}
              </span>
            )}
            {left > 0 && <span className="ochre"> · {left === 1 ? 'one cell was' : `${left} cells were`} changed since and left</span>}
          </span>
          {rescaled.size > 0 && <MarksShown asCounted={asCounted} onAsCounted={setAsCounted} />}
          {nav}
        </div>
        <SheetTools
          courseId={courseId}
          sheet={sheet}
          shown={{ sectionId, assessmentId: ofId, only }}
          onSection={setSectionId}
          onAssessment={(id) => {
            setOf(id)
            setSort(null)
            setTyped(null)
          }}
          onOnly={setOnly}
          onBringIn={() => setBringing(true)}
        />
        {carried && (
          <CarriedHere carried={carried} onAll={() => setCarried(undefined)}>
            {counted(rows.length, 'student')}
          </CarriedHere>
        )}
        <SheetGrid
          ref={grid}
          sheet={sheet}
          cells={cells}
          columns={columns}
          places={places}
          rows={rows}
          label={label}
          here={here}
          typing={typing}
          sort={sort}
          unsaved={unsaved}
          refused={refused}
          wrong={wrong}
          rescaled={rescaled}
          asCounted={asCounted && rescaled.size > 0}
          onSort={(column) => setSort((s) => (s?.column !== column ? { column, down: true } : s.down ? { column, down: false } : null))}
          onKeyDown={onKeyDown}
          onPaste={(text) => edits.paste(here.row, here.column, text)}
          onGo={go}
          onType={onType}
          onCommit={onCommit}
          onCancel={onCancel}
        />
      </main>
      <CloseUp>
        {student && assessment ? (
          <CellCloseUp
            courseId={courseId}
            student={{ label: label(student.id), id: student.id, candidate: student.candidate }}
            assessment={assessment}
            cell={cells.get(cells.placeOf(student.id), places[here.column]!) ?? null}
            value={edits.valueAt(here.row, here.column)}
            countsAs={rescaled.get(assessment.id)?.get(student.id) ?? null}
            due={cells.dueOf(cells.placeOf(student.id), places[here.column]!)}
            fault={wrong.get(key)?.reason ?? refused.get(key)?.message ?? null}
            clash={refused.get(key)?.kind === 'stale' ? refused.get(key)! : null}
            writable={edits.isEditable(here.row, here.column)}
            onSet={(value) => edits.setStatus(here.row, here.column, value)}
            onFill={fillDown}
            remarkWaiting={unsaved.get(key)?.remark}
            onRemark={(remark, before) => edits.setRemark(here.row, here.column, remark, before)}
            onMine={(typed) => {
              edits.forget(key)
              edits.change([typed], `mark of ${label(student.id)}`)
            }}
            onTheirs={() => edits.forget(key)}
          />
        ) : (
          <p className="soft">Nobody matches. Choose another section or assessment, or everyone.</p>
        )}
      </CloseUp>
      {bringing && (
        <BringIn
          courseId={courseId}
          titles={sheet.assessments.map((a) => a.title)}
          onBroughtIn={(changed, file) =>
            edits.remember(
              `bring ${file} in`,
              changed.map(({ studentId, assessmentId, was }) => ({ studentId, assessmentId, ...was })),
              changed.map(({ was: _, ...cell }) => cell),
            )
          }
          onClose={() => setBringing(false)}
        />
      )}
    </div>
  )
}
