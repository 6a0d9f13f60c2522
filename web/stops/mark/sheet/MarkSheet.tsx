import { useCallback, useEffect, useMemo, useRef, useState, type ReactNode } from 'react'
import { readCellText, writeCellText } from '#core/exchange/cell-text'
import { BLANK, cellAfter, type CellValue } from '#core/marking'
import type { SheetByCell } from '#contract'
import { useLocation } from 'react-router'
import { useSignedIn } from '../../../session/ahead'
import { useKeys } from '../../../settings/keys'
import { useSaved } from '../../../saving/saved'
import { usePersonLabels } from '../../../settings/names'
import { carriedIn } from '../../../parts/carried'
import { CarriedHere } from '../../../parts/CarriedHere'
import { counted } from '../../../parts/format'
import { useKept } from '../../../saving/useKept'
import { useStable } from '../../../parts/useStable'
import { BringIn } from './BringIn'
import { cellKey, useCellQueue, without, type CellEdit } from './cell-queue'
import { CellCloseUp } from './CellCloseUp'
import { cellsOf } from './cells'
import type { CountsAs } from './counts-as'
import { useFiguresIfKnown } from '../../../course/course'
import { rowsOf, type Only, type Wanted } from './rows'
import { SheetGrid, type At } from './SheetGrid'
import { MarksShown } from './MarksShown'
import { SheetTools } from './SheetTools'
import { useSteps } from './useSteps'
import { CloseUp } from '../../../parts/CloseUp'
import styles from './sheet.module.css'
import { Spoken } from '../../../parts/Spoken'

const NONE_RESCALED: CountsAs = new Map()
const pick = ({ mark, status, daysLate }: CellValue): CellValue => ({ mark, status, daysLate })

/** Students × assessments, typed like any sheet: arrows walk, typing enters, Enter goes down, paste takes a block. */
export function MarkSheet({ courseId, sheet, nav }: { courseId: string; sheet: SheetByCell; nav: ReactNode }) {
  const me = useSignedIn()
  const { hold } = useSaved()
  const label = usePersonLabels(sheet.students)
  const [sectionId, setSectionId] = useState('')
  const [only, setOnly] = useState<Only>('all')
  const [carried, setCarried] = useState(carriedIn(useLocation()))
  const carriedIds = useMemo(() => carried && new Set(carried.studentIds), [carried])
  const [ofId, setOf] = useState(carried?.assessmentId ?? '')
  const [sort, setSort] = useState<Wanted['sort']>(null)
  const [at, setAt] = useState<At>({ row: 0, column: 0 })
  const [bringing, setBringing] = useState(false)
  const [typing, setTyping] = useState<string | null>(null)
  /** The version of the cell when one began to type in it: what somebody puts there meanwhile is not written over unseen. */
  const readAt = useRef(0)
  const [wrong, setWrong] = useKept(`wrong ${courseId} ${me.id}`, () => new Map<string, { text: string; reason: string }>())
  const grid = useRef<{ reveal: (at: At) => void }>(null)
  const cells = cellsOf(sheet)
  const of = ofId === '' || cells.columnOf(ofId) < 0 ? null : cells.columnOf(ofId)
  const { write, refused, unsaved, forget } = useCellQueue(courseId, me.id, cells)
  const { assessments } = sheet
  const places = useMemo(() => (of === null ? assessments.map((_, i) => i) : [of]), [assessments, of])
  const columns = useMemo(() => places.map((i) => assessments[i]!), [assessments, places])
  // Rows stay while one types in them: they are found and sorted anew when that is asked for.
  const { students } = sheet
  const rows = useMemo(
    () => rowsOf(students, assessments, cells, { sectionId, only, assessment: of, sort, carried: carriedIds ?? null }),
    [students, assessments, cells, sectionId, only, of, sort, carriedIds],
  )

  const rescaled = useFiguresIfKnown('countsAs') ?? NONE_RESCALED
  const [asCounted, setAsCounted] = useState(false)
  const here = { row: Math.min(at.row, rows.length - 1), column: Math.min(at.column, columns.length - 1) }
  const student = rows[here.row]
  const assessment = columns[here.column]
  const valueOf = useCallback(
    (key: string, s: number, a: number): CellValue => unsaved.get(key) ?? cells.get(s, a) ?? BLANK,
    [unsaved, cells],
  )
  const { step, remember, left } = useSteps(courseId, me.id, write, (e) =>
    valueOf(cellKey(e), cells.placeOf(e.studentId), cells.columnOf(e.assessmentId)),
  )
  const valueAt = (row: number, column: number) =>
    valueOf(`${rows[row]!.id} ${columns[column]!.id}`, cells.placeOf(rows[row]!.id), places[column]!)

  const go = useCallback(
    (row: number, column: number) => {
      const next = { row: Math.max(0, Math.min(rows.length - 1, row)), column: Math.max(0, Math.min(columns.length - 1, column)) }
      setAt(next)
      setTyping(null)
      grid.current?.reveal(next)
    },
    [rows.length, columns.length],
  )
  const editable = (row: number, column: number): boolean => {
    const s = rows[row]
    return sheet.writable && !!s && !!columns[column] && cells.isSet(cells.placeOf(s.id), places[column]!)
  }
  const change = (edits: CellEdit[], what: string) => {
    const before = edits.map((e): CellEdit => {
      const was = valueOf(cellKey(e), cells.placeOf(e.studentId), cells.columnOf(e.assessmentId))
      return { studentId: e.studentId, assessmentId: e.assessmentId, ...pick(was) }
    })
    step(
      what,
      before,
      edits.map((e) => ({
        studentId: e.studentId,
        assessmentId: e.assessmentId,
        ...pick(e),
        ...(e.remark === undefined ? {} : { remark: e.remark }),
        ...(e.readAt === undefined ? {} : { readAt: e.readAt }),
      })),
    )
  }
  /** What a typed text makes of a cell; null with the reason kept in the cell. */
  const understood = (row: number, column: number, text: string): CellEdit | null => {
    const a = columns[column]!
    const ids = { studentId: rows[row]!.id, assessmentId: a.id }
    const key = cellKey(ids)
    const was = valueAt(row, column)
    const due = cells.dueOf(cells.placeOf(ids.studentId), places[column]!)
    const typed = readCellText(text, a.outOf, a.bonus, a.labels && { labels: a.labels }, { due, term: sheet.term })
    if (typed.kind === 'wrong') {
      setWrong((old) => new Map(old).set(key, { text, reason: typed.reason }))
      return null
    }
    // Told only where there is something to forget: what is typed is on its way before anything is drawn.
    if (wrong.has(key)) setWrong((old) => without(old, key))
    if (refused.has(key)) forget(key)
    // Emptied on purpose, a cell is blank again.
    return { ...ids, ...(cellAfter(was, typed) ?? BLANK) }
  }
  const commit = (text: string) => {
    if (!editable(here.row, here.column)) return setTyping(null)
    const edit = understood(here.row, here.column, text)
    if (edit) change([{ ...edit, readAt: readAt.current }], `mark of ${label(edit.studentId)}`)
    setTyping(null)
  }
  const begin = (row: number, column: number, text: string) => {
    readAt.current = cells.get(cells.placeOf(rows[row]!.id), places[column]!)?.version ?? 0
    setTyping(text)
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
    if (edits.length > 0) change(edits, `paste ${counted(edits.length, 'cell')}`)
  }
  /** Gives what stands in this cell to the blanks beneath it, and to nothing else. */
  const fillDown = () => {
    if (!assessment || !editable(here.row, here.column)) return
    const value = pick(valueAt(here.row, here.column))
    if (value.mark === null && value.status === 'in') return
    const edits = rows.slice(here.row + 1).flatMap((s): CellEdit[] => {
      const place = cells.placeOf(s.id)
      const blank =
        cells.isPending(place, places[here.column]!) &&
        cells.status(place, places[here.column]!) === 'in' &&
        !unsaved.has(`${s.id} ${assessment.id}`)
      return blank ? [{ studentId: s.id, assessmentId: assessment.id, ...value }] : []
    })
    if (edits.length > 0) change(edits, `fill ${counted(edits.length, 'blank')} down`)
  }
  const setStatus = (value: CellValue) => {
    if (student && assessment && editable(here.row, here.column))
      change([{ studentId: student.id, assessmentId: assessment.id, ...value }], `status of ${label(student.id)}`)
  }

  const setRemark = (remark: string, before: string) => {
    if (!student || !assessment) return
    const cell = { studentId: student.id, assessmentId: assessment.id, ...pick(valueAt(here.row, here.column)) }
    step(`remark for ${label(student.id)}`, [{ ...cell, remark: before }], [{ ...cell, remark }])
  }

  useKeys([
    { key: 'b', does: 'bring in a file of marks', run: () => setBringing(true) },
    {
      key: 'Enter',
      does: 'in the sheet: edit, then commit and go down; a letter m, a, e, h sets missing, absent, exempt, held; “17 late 2” is late by two days',
    },
    { key: 'Ctrl+d', does: 'fill the blanks beneath with what stands here', run: fillDown },
  ])

  const shownText = (row: number, column: number) =>
    wrong.get(`${rows[row]!.id} ${columns[column]!.id}`)?.text ?? writeCellText(valueAt(row, column))
  const type = (row: number, column: number) => editable(row, column) && begin(row, column, shownText(row, column))
  const onKeyDown = (e: React.KeyboardEvent) => {
    if (typing !== null || e.altKey || (e.target as HTMLElement).matches(`.${styles.headRow} button`)) return
    const step = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1], PageUp: [-15, 0], PageDown: [15, 0] }[e.key]
    if (step) go(here.row + step[0]!, here.column + step[1]!)
    else if (e.key === 'Home') go(e.ctrlKey ? 0 : here.row, 0)
    else if (e.key === 'End') go(e.ctrlKey ? rows.length - 1 : here.row, columns.length - 1)
    else if (e.ctrlKey || e.metaKey) return
    else if (!editable(here.row, here.column)) return
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
  const onCancel = useCallback(() => setTyping(null), [])

  const faults = wrong.size + refused.size
  // They are there again when one comes back to the sheet, and are not called saved meanwhile.
  useEffect(
    () => hold('mark sheet', faults > 0 ? { what: `${counted(faults, 'cell')} of the mark sheet`, lost: false } : null),
    [hold, faults],
  )
  const key = student && assessment ? `${student.id} ${assessment.id}` : ''
  // One has gone on to the next cell by the time that one is refused.
  const lastFault = useMemo(() => {
    const [of, reason] =
      [...[...refused].map(([k, r]) => [k, r.message] as const), ...[...wrong].map(([k, w]) => [k, w.reason] as const)].at(-1) ?? []
    if (of === undefined) return ''
    const [studentId, assessmentId] = of.split(' ')
    return `Not saved: ${assessments.find((a) => a.id === assessmentId)?.title ?? ''}, ${label(studentId!)}. ${reason}`
  }, [refused, wrong, assessments, label])
  return (
    <div className="work">
      <main className={`table-side ${styles.markSide}`}>
        <Spoken>{lastFault}</Spoken>
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
            setTyping(null)
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
          onPaste={paste}
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
            value={valueAt(here.row, here.column)}
            countsAs={rescaled.get(assessment.id)?.get(student.id) ?? null}
            due={cells.dueOf(cells.placeOf(student.id), places[here.column]!)}
            fault={wrong.get(key)?.reason ?? refused.get(key)?.message ?? null}
            clash={refused.get(key)?.kind === 'stale' ? refused.get(key)! : null}
            writable={editable(here.row, here.column)}
            onSet={setStatus}
            onFill={fillDown}
            remarkWaiting={unsaved.get(key)?.remark}
            onRemark={setRemark}
            onMine={(typed) => {
              forget(key)
              change([typed], `mark of ${label(student.id)}`)
            }}
            onTheirs={() => forget(key)}
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
            remember(
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
