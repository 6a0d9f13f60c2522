import { STATUSES } from '#core/grades'
import { setFor } from '#core/roll'
import { cellAt, putReadings, putTyped, type Cell, type SheetByCell, type SheetSince } from '#contract'

/**
 * The cells of a sheet by place of student and assessment: 12,000 × 60 of them are found without a string or an object
 * each. What is saved is put in, and what is recorded of nobody is blank.
 */
export class Cells {
  readonly width: number
  private readonly studentAt: Map<string, number>
  private readonly assessmentAt: Map<string, number>
  private readonly apart: Set<number>
  private readonly placing: ReturnType<typeof setFor>
  /** Whether an assessment is set for a student. */
  private readonly set: Uint8Array
  /** Raised by every change, for what is reckoned from the cells. */
  revision = 0
  private readonly changedAt = new Map<number, number>()

  constructor(private readonly sheet: SheetByCell) {
    const { students, assessments, placements, exceptions } = sheet
    this.width = assessments.length
    this.studentAt = new Map(students.map((s, i) => [s.id, i]))
    this.assessmentAt = new Map(assessments.map((a, i) => [a.id, i]))
    this.apart = new Set(
      sheet.overTolerance.map((c) => this.at(this.placeOf(c.studentId), this.columnOf(c.assessmentId))).filter((at) => at >= 0),
    )
    this.placing = setFor(sheet)
    this.set = new Uint8Array(students.length * this.width)
    const bySection = new Map<string, number[]>()
    for (const p of placements) {
      const list = bySection.get(p.sectionId)
      if (list) list.push(this.assessmentAt.get(p.assessmentId)!)
      else bySection.set(p.sectionId, [this.assessmentAt.get(p.assessmentId)!])
    }
    students.forEach((s, i) => {
      const differs = exceptions[s.id]
      const own = differs ? Object.keys(differs).map((id) => this.assessmentAt.get(id)!) : (bySection.get(s.sectionId) ?? [])
      for (const a of own) this.set[i * this.width + a] = 1
    })
  }

  /** Where a cell stands; −1 where its student or its assessment is not in the sheet. */
  private at = (student: number, assessment: number): number => (student < 0 || assessment < 0 ? -1 : student * this.width + assessment)

  placeOf = (studentId: string): number => this.studentAt.get(studentId) ?? -1
  columnOf = (assessmentId: string): number => this.assessmentAt.get(assessmentId) ?? -1
  isSet = (student: number, assessment: number): boolean => this.set[this.at(student, assessment)] === 1

  get(student: number, assessment: number): Cell | undefined {
    const at = this.at(student, assessment)
    return at < 0 ? undefined : cellAt(this.sheet, at)
  }

  /** The mark that counts so far, typed or from readings; null where there is none. */
  mark(student: number, assessment: number): number | null {
    const at = this.at(student, assessment)
    const { mark, readings, readMark } = this.sheet.cells
    const counts = (readings[at] === 0 ? mark[at] : readMark[at]) ?? NaN
    return Number.isNaN(counts) ? null : counts
  }
  status = (student: number, assessment: number): (typeof STATUSES)[number] =>
    STATUSES[this.sheet.cells.status[this.at(student, assessment)] ?? 0]!

  /** Whether a mark is waited for: work that is there, and neither a mark nor readings of it. */
  isPending(student: number, assessment: number): boolean {
    // Read blind, it waits on desks and not here.
    if (!this.isSet(student, assessment) || this.sheet.assessments[assessment]!.blind) return false
    const status = this.status(student, assessment)
    const at = this.at(student, assessment)
    return (status === 'in' || status === 'late') && Number.isNaN(this.sheet.cells.mark[at]) && this.sheet.cells.readings[at] === 0
  }
  /** Readings are in and no mark is agreed. */
  isOpen(student: number, assessment: number): boolean {
    const at = this.at(student, assessment)
    const { readings, readMark, status } = this.sheet.cells
    return at >= 0 && readings[at] !== 0 && Number.isNaN(readMark[at]) && status[at] === 0
  }

  /** Its readings are further apart than is tolerated. */
  isApart = (student: number, assessment: number): boolean => this.apart.has(this.at(student, assessment))
  /** The day it is due for a student; null where none is set. */
  dueOf(student: number, assessment: number): string | null {
    const { students, assessments } = this.sheet
    return this.placing.dueOf(students[student]!, assessments[assessment]!.id)
  }

  /** Takes in what was saved; what comes from readings stays as it was. */
  put(saved: readonly Cell[]): void {
    for (const c of saved) {
      const [s, a] = [this.placeOf(c.studentId), this.columnOf(c.assessmentId)]
      if (s < 0 || a < 0) continue
      putTyped(this.sheet.cells, s * this.width + a, c)
      this.changedAt.set(s, this.revision + 1)
    }
    this.revision++
  }

  /** The revision that a student’s cells are of, for what is drawn from them alone. */
  revisionOf = (student: number): number => this.changedAt.get(student) ?? 0

  /** Takes in what others wrote, readings among it. */
  takeIn(written: NonNullable<SheetSince['cells']>): void {
    this.put(written)
    for (const { studentId, assessmentId, fromReadings, overTolerance } of written) {
      const [s, a] = [this.placeOf(studentId), this.columnOf(assessmentId)]
      if (s < 0 || a < 0) continue
      const key = s * this.width + a
      putReadings(this.sheet.cells, key, fromReadings)
      if (overTolerance) this.apart.add(key)
      else this.apart.delete(key)
    }
  }
}

const known = new WeakMap<SheetByCell['cells'], Cells>()

/** The cells of a sheet, found once for as long as it is the same; what was put into them stays in it. */
export function cellsOf(sheet: SheetByCell): Cells {
  const before = known.get(sheet.cells)
  if (before) return before
  const cells = new Cells(sheet)
  known.set(sheet.cells, cells)
  return cells
}
