import { setImmediate as breath } from 'node:timers/promises'
import { group } from 'd3-array'
import { readCellText, writeCellText } from '#core/exchange/cell-text'
import type { MarksFile } from '#core/exchange/marks-file'
import type { WhoBy } from '#core/exchange/marks-who'
import type { Status } from '#core/grades'
import { BLANK, cellAfter, whyNoMark, type CellValue } from '#core/marking'
import { foldedName, setFor } from '#core/roll'
import { inFile } from './marks-table'
import { cellAt, type Cell, type CellWrite, type SheetByCell, type TriedImport, type TriedRow } from '#contract'

const LISTED = 2000
const AT_ONCE = 2000
const NEAREST_OF = 20

/** A cell that was changed since a moment, as it was at it; its status is null where nothing was there. */
export interface ChangedCell {
  studentId: string
  assessmentId: string
  mark: number | null
  status: Status | null
  daysLate: number | null
  /** Who changed it last. */
  by: string
}

interface Known {
  /** Candidate numbers of students by their ids from outside, and by their mail addresses in lower case. */
  candidateOf: ReadonlyMap<string, string>
  candidateAt: ReadonlyMap<string, string>
  /** Why a mark is not brought in for a script that is shared out. */
  readNotTyped: (studentId: string, assessmentId: string) => string | null
  /** Cells changed since a moment, by student and assessment. */
  changedSince: (asOf: string) => ReadonlyMap<string, ChangedCell>
  /** Remarks beside typed marks, by student and assessment. */
  remarks: ReadonlyMap<string, string>
}

/**
 * What a file of marks would do to a sheet, row by row, and the writes that would do it. Changes nothing.
 * A row that says when its sheet was taken out is merged: a cell that the file left as it was stays as somebody made it
 * since, and one that both changed is refused with both values.
 */
export async function tryMarksFile(
  file: MarksFile,
  sheet: SheetByCell,
  { candidateOf, candidateAt, readNotTyped, changedSince, remarks }: Known,
): Promise<{ tried: TriedImport; writes: (CellWrite & { was: CellValue })[] }> {
  const students = new Map(sheet.students.map((s) => [s.candidate.toLowerCase(), s]))
  const byName = group(sheet.students, (s) => foldedName(s.name))
  type Student = SheetByCell['students'][number]
  const numbered = (candidate: string | undefined) => students.get(candidate?.toLowerCase() ?? '')
  /** Who is meant, or why nobody is. */
  const WHO: Record<WhoBy, (text: string) => Student | string> = {
    candidate: (text) =>
      numbered(text) ?? numbered(candidateOf.get(text)) ?? `No student has candidate number ${text.slice(0, 40)} in the sections you mark.`,
    'external id': (text) => numbered(candidateOf.get(text)) ?? `No student has the id ${text.slice(0, 40)} in the sections you mark.`,
    'e-mail': (text) =>
      numbered(candidateAt.get(text.toLowerCase())) ?? `No student has the mail address ${text.slice(0, 60)} in the sections you mark.`,
    name: (text) => {
      const [one, ...more] = byName.get(foldedName(text)) ?? []
      if (!one) return `No student is called ${text.slice(0, 60)} in the sections you mark.`
      const all = [one, ...more].map((s) => s.candidate).join(', ')
      return more.length === 0 ? one : `${more.length + 1} students are called ${one.name} (${all}): give the candidate number.`
    },
  }
  const assessments = new Map(sheet.assessments.map((a) => [a.title.toLowerCase(), a]))
  const studentAt = new Map(sheet.students.map((s, i) => [s.id, i]))
  const assessmentAt = new Map(sheet.assessments.map((a, i) => [a.id, i]))
  const { isSet, dueOf } = setFor(sheet)
  const rows: TriedRow[] = file.faults.map((f) => ({ ...f, outcome: 'refused', before: '', after: '' }))
  const writes: (CellWrite & { was: CellValue })[] = []
  const seen = new Map<string, number>()
  const commas: { text: string; line: number }[] = []
  /** Remarks that are left: beside no mark, and beside one that readings make. */
  const left = { bare: 0, read: 0 }
  const unknownColumns = new Set<string>()
  const nearest = nearestOf(sheet.assessments.map((a) => a.title))

  let worked = 0
  for (const m of file.marks) {
    // Others are answered in between.
    if (++worked % AT_ONCE === 0) await breath()
    const base = {
      line: m.line,
      column: m.column,
      candidate: m.candidate,
      assessment: m.assessment,
      before: '',
      after: m.text.slice(0, 60),
      reason: null,
    }
    const refuse = (reason: string) => rows.push({ ...base, outcome: 'refused', reason })
    const assessment = assessments.get(m.assessment.toLowerCase())
    if (!assessment) {
      // One unknown heading is one fault, not one for every row beneath it.
      if (unknownColumns.has(m.assessment.toLowerCase())) continue
      unknownColumns.add(m.assessment.toLowerCase())
      // Of a file that is about something else altogether, the first few are enough to see it.
      const near = unknownColumns.size <= NEAREST_OF ? nearest(m.assessment) : null
      refuse(
        `This course has no assessment “${m.assessment.slice(0, 60)}”${near ? `: is “${near}” meant?` : ': head the column with the title of one, say what it is, or put it aside.'}`,
      )
      continue
    }
    const student = WHO[m.by ?? 'candidate'](m.candidate)
    if (typeof student === 'string') {
      refuse(student)
      continue
    }
    const key = `${student.id} ${assessment.id}`
    const before = seen.get(key)
    if (before !== undefined) {
      refuse(`${m.candidate} already has a mark for ${assessment.title} in line ${before}: keep one of them.`)
      continue
    }
    seen.set(key, m.line)
    const cell = cellAt(sheet, studentAt.get(student.id)! * assessmentAt.size + assessmentAt.get(assessment.id)!)
    if (m.outOf !== undefined && m.outOf !== assessment.outOf) {
      refuse(
        `The file marks ${assessment.title} out of ${m.outOf}, and here it is out of ${assessment.outOf}: bring both to the same first.`,
      )
      continue
    }
    const calendar = { due: dueOf(student, assessment.id), term: sheet.term }
    const scale = assessment.labels && { labels: assessment.labels }
    const typed = readCellText(m.text, assessment.outOf, assessment.bonus, scale, calendar)
    if (typed.kind === 'mark' && /\d,\d/.test(m.text)) commas.push(m)
    // An empty cell leaves the mark alone.
    if (typed.kind === 'blank') {
      if (m.remark) left.bare++
      continue
    }
    if (typed.kind === 'wrong') {
      refuse(typed.reason)
      continue
    }
    if (!isSet(student, assessment.id)) {
      refuse(`${assessment.title} is not set for this student.`)
      continue
    }
    const next = cellAfter(valueOf(cell), typed)!
    const { outOf, bonus, marking } = assessment
    const whyNot =
      next.mark === null || next.mark === cell?.mark ? null : whyNoMark(next.mark, { outOf, bonus, completion: marking === 'completion' })
    if (whyNot) {
      refuse(whyNot)
      continue
    }
    // What was agreed on readings may come back as it went out.
    const asAgreed =
      cell?.fromReadings && inFile(cell.fromReadings.mark) === next.mark && cell.status === next.status && cell.daysLate === next.daysLate
    if (cell?.fromReadings && next.mark !== null && !asAgreed) {
      refuse(`${assessment.title} is marked by readings: settle it at Reconcile.`)
      continue
    }
    if (asAgreed) {
      if (m.remark) left.read++
      rows.push({ ...base, before: String(next.mark ?? ''), after: String(next.mark ?? ''), outcome: 'unchanged' })
      continue
    }
    const shown = { before: cell ? writeCellText(cell) : '', after: writeCellText(next) }
    const since = m.asOf === undefined ? undefined : changedSince(m.asOf).get(key)
    if (since && shown.before !== shown.after) {
      const was = since.status === null ? '' : writeCellText({ mark: since.mark, status: since.status, daysLate: since.daysLate ?? 0 })
      if (was === shown.after) {
        rows.push({ ...base, ...shown, after: shown.before, outcome: 'unchanged' })
        continue
      }
      if (was !== shown.before) {
        refuse(
          `It was ${was || 'blank'} when the sheet was taken out, and ${since.by} has put ${shown.before || 'a blank'} there since: empty the cell to keep that.`,
        )
        continue
      }
    }
    const said = remarks.get(key) ?? ''
    const remark = m.remark && m.remark !== said ? m.remark : undefined
    const readBy =
      remark !== undefined || (next.mark !== null && next.mark !== (cell?.mark ?? null)) ? readNotTyped(student.id, assessment.id) : null
    if (readBy !== null) {
      refuse(readBy)
      continue
    }
    const outcome = !cell || blank(cell) ? 'added' : shown.before === shown.after && remark === undefined ? 'unchanged' : 'changed'
    rows.push({ ...base, ...shown, outcome, reason: remark === undefined ? null : `${outcome}, with a remark` })
    if (outcome !== 'unchanged')
      writes.push({
        studentId: student.id,
        assessmentId: assessment.id,
        version: cell?.version ?? 0,
        ...next,
        ...(remark !== undefined && { remark }),
        was: { ...valueOf(cell), ...(remark !== undefined && { remark: said }) },
      })
  }
  if (rows.length === 0)
    rows.push({
      line: 1,
      column: null,
      candidate: '',
      assessment: '',
      before: '',
      after: '',
      outcome: 'refused',
      reason: 'The file holds no mark: every cell is empty.',
    })
  return {
    tried: {
      ...summary(rows),
      sheets: file.sheets ?? [],
      notes: [...file.notes, ...(commas.length > 0 ? [commaNote(commas)] : []), ...remarksLeft(left)],
      table: file.table,
    },
    writes,
  }
}

const valueOf = (cell: Cell | undefined): CellValue => (cell ? { mark: cell.mark, status: cell.status, daysLate: cell.daysLate } : BLANK)
const blank = (cell: Cell) => cell.mark === null && cell.status === 'in'

const remarksLeft = ({ bare, read }: { bare: number; read: number }): string[] => [
  ...(bare > 0
    ? [`${bare === 1 ? 'One remark stands' : `${bare} remarks stand`} beside no mark, and ${bare === 1 ? 'is' : 'are'} left.`]
    : []),
  ...(read > 0
    ? [
        `${read === 1 ? 'One remark stands' : `${read} remarks stand`} beside a mark that readings make, and ${read === 1 ? 'is' : 'are'} left: there remarks stand with readings.`,
      ]
    : []),
]

const commaNote = ([first, ...more]: readonly { text: string; line: number }[]): string =>
  `A decimal comma is read as a point: ${first!.text.trim()} in line ${first!.line}${more.length > 0 ? `, and ${more.length} more` : ''}.`

function summary(rows: TriedRow[]): Omit<TriedImport, 'notes' | 'sheets' | 'table'> {
  const counts = { added: 0, changed: 0, unchanged: 0, refused: 0 }
  for (const r of rows) counts[r.outcome]++
  const order = { refused: 0, changed: 1, added: 2, unchanged: 3 }
  const sorted = [...rows].sort((a, b) => order[a.outcome] - order[b.outcome] || a.line - b.line)
  return { counts, rows: sorted.slice(0, LISTED), unlisted: Math.max(0, sorted.length - LISTED) }
}

const pairsOf = (text: string) => new Set([...text.slice(0, 200).toLowerCase()].map((c, i, all) => c + (all[i + 1] ?? '')))

/** Finds the title that shares most pairs of letters, if it shares enough (Dice coefficient). */
function nearestOf(titles: readonly string[]) {
  const known = titles.map((title) => ({ title, pairs: pairsOf(title) }))
  return (wanted: string): string | null => {
    const own = pairsOf(wanted)
    let best = { title: '', score: 0 }
    for (const { title, pairs } of known) {
      const score = (2 * [...own].filter((p) => pairs.has(p)).length) / (own.size + pairs.size)
      if (score > best.score) best = { title, score }
    }
    return best.score >= 0.6 ? best.title : null
  }
}
