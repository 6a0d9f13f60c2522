import { useCallback } from 'react'
import { readCellText, writeCellText } from '#core/exchange/cell-text'
import { BLANK, cellAfter, type CellValue } from '#core/marking'
import type { SheetByCell } from '#contract'
import { counted } from '../../../parts/format'
import { useKept } from '../../../saving/useKept'
import { cellKey, useCellQueue, without, type CellEdit } from './cell-queue'
import type { Cells } from './cells'
import { useSteps } from './useSteps'

/** The sheet as it is shown. */
interface Shown {
  sheet: SheetByCell
  cells: Cells
  rows: SheetByCell['students']
  columns: SheetByCell['assessments']
  /** The place of each column in the sheet. */
  places: readonly number[]
  label: (studentId: string) => string
}

const pick = ({ mark, status, daysLate }: CellValue): CellValue => ({ mark, status, daysLate })
const isBlank = ({ mark, status }: CellValue): boolean => mark === null && status === 'in'

/** What is typed into the sheet where it is shown, pasted, filled down and set: each a step that can be taken back. */
export function useSheetEdits(courseId: string, personId: string, { sheet, cells, rows, columns, places, label }: Shown) {
  const { write, refused, unsaved, forget } = useCellQueue(courseId, personId, cells)
  const [wrong, setWrong] = useKept(`wrong ${courseId} ${personId}`, () => new Map<string, { text: string; reason: string }>())

  const valueOf = useCallback(
    (key: string, s: number, a: number): CellValue => unsaved.get(key) ?? cells.get(s, a) ?? BLANK,
    [unsaved, cells],
  )
  const valueOfEdit = (e: CellEdit) => valueOf(cellKey(e), cells.placeOf(e.studentId), cells.columnOf(e.assessmentId))
  const { step, remember, left } = useSteps(courseId, personId, write, valueOfEdit)

  const idsAt = (row: number, column: number) => ({ studentId: rows[row]!.id, assessmentId: columns[column]!.id })
  const valueAt = (row: number, column: number) => valueOf(cellKey(idsAt(row, column)), cells.placeOf(rows[row]!.id), places[column]!)
  const isEditable = (row: number, column: number): boolean => {
    const s = rows[row]
    return sheet.writable && !!s && !!columns[column] && cells.isSet(cells.placeOf(s.id), places[column]!)
  }

  const change = (edits: CellEdit[], what: string) =>
    step(
      what,
      edits.map((e): CellEdit => ({ studentId: e.studentId, assessmentId: e.assessmentId, ...pick(valueOfEdit(e)) })),
      edits.map((e) => ({
        studentId: e.studentId,
        assessmentId: e.assessmentId,
        ...pick(e),
        ...(e.remark === undefined ? {} : { remark: e.remark }),
        ...(e.readAt === undefined ? {} : { readAt: e.readAt }),
      })),
    )

  /** What a typed text makes of a cell; null with the reason kept in the cell. */
  const understood = (row: number, column: number, text: string): CellEdit | null => {
    const a = columns[column]!
    const ids = idsAt(row, column)
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

  return {
    /** By student and assessment: what is not saved yet, what was refused and what could not be read. */
    unsaved,
    refused,
    wrong,
    forget,
    /** How many cells of the last undo or redo were left. */
    left,
    remember,
    change,
    isEditable,
    valueAt,
    /** What one begins with who types in a cell. */
    textAt: (row: number, column: number) => wrong.get(cellKey(idsAt(row, column)))?.text ?? writeCellText(valueAt(row, column)),
    versionAt: (row: number, column: number) => cells.get(cells.placeOf(rows[row]!.id), places[column]!)?.version ?? 0,

    /** @param readAt the version of the cell when one began to type in it */
    type(row: number, column: number, text: string, readAt: number) {
      const edit = isEditable(row, column) ? understood(row, column, text) : null
      if (edit) change([{ ...edit, readAt }], `mark of ${label(edit.studentId)}`)
    },
    /** A block of cells from here to the right and down; blanks in it leave what is there. */
    paste(row: number, column: number, text: string) {
      const block = text
        .replace(/\r?\n$/, '')
        .split(/\r?\n/)
        .map((line) => line.split('\t'))
      const edits = block.flatMap((line, r) =>
        line.flatMap((value, c) => {
          if (value.trim() === '' || !isEditable(row + r, column + c)) return []
          return understood(row + r, column + c, value) ?? []
        }),
      )
      if (edits.length > 0) change(edits, `paste ${counted(edits.length, 'cell')}`)
    },
    /** Gives what stands in this cell to the blanks beneath it, and to nothing else. */
    fillDown(row: number, column: number) {
      if (!isEditable(row, column)) return
      const value = pick(valueAt(row, column))
      if (isBlank(value)) return
      const assessmentId = columns[column]!.id
      const edits = rows.slice(row + 1).flatMap((s): CellEdit[] => {
        const [at, a] = [cells.placeOf(s.id), places[column]!]
        const edit = { studentId: s.id, assessmentId, ...value }
        const blank = cells.isPending(at, a) && cells.status(at, a) === 'in' && !unsaved.has(cellKey(edit))
        return blank ? [edit] : []
      })
      if (edits.length > 0) change(edits, `fill ${counted(edits.length, 'blank')} down`)
    },
    setStatus(row: number, column: number, value: CellValue) {
      if (isEditable(row, column)) change([{ ...idsAt(row, column), ...value }], `status of ${label(rows[row]!.id)}`)
    },
    setRemark(row: number, column: number, remark: string, before: string) {
      const cell = { ...idsAt(row, column), ...pick(valueAt(row, column)) }
      step(`remark for ${label(rows[row]!.id)}`, [{ ...cell, remark: before }], [{ ...cell, remark }])
    },
  }
}
