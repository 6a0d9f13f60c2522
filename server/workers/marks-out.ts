import { writeDelimited } from '#core/exchange/write-delimited'
import { writeRosterResults, type ResultToWrite } from '#core/exchange/roster-results'
import { writeWorkbook } from '#core/exchange/workbook'
import { recordedCells, type SheetByCell } from '#contract'
import { namesAmong, type knownByRoster } from '../kernel/course/roster-ids'
import { marksKinds, marksTable } from '../areas/marking/marks-table'

/** A sheet as whoever asks may see it, and when it was taken out. */
export interface SheetToWrite {
  sheet: SheetByCell
  asOf: string
  as: 'csv' | 'xlsx'
}

/** A mark sheet as a file. */
export async function sheetFile({ sheet, asOf, as }: SheetToWrite): Promise<Uint8Array> {
  const [header, ...rows] = marksTable(sheet, asOf)
  return as === 'csv' ? Buffer.from(writeDelimited([header!, ...rows])) : writeWorkbook('Marks', header!, rows, marksKinds(header!))
}

export interface RosterToWrite {
  sheet: SheetByCell
  of: Omit<Parameters<typeof writeRosterResults>[0], 'placements' | 'names'>
  /** As the roster knows classes, teachers and names. */
  known: ReturnType<typeof knownByRoster>
  /** Ids from outside of students, as far as they may be seen; remarks by student and assessment. */
  outside: ReadonlyMap<string, string | null>
  remarks: ReadonlyMap<string, string>
}

/** Marks as OneRoster results, zipped. */
export function rosterFile({ sheet, of, known, outside, remarks }: RosterToWrite): Uint8Array {
  const { assessments, placements, students } = sheet
  const byId = new Map(students.map((s) => [s.id, s]))
  // One by one: held all at once they would take more room than a thread has.
  function* results(): Generator<ResultToWrite> {
    for (const c of recordedCells(sheet)) {
      const { candidate, name, sectionId } = byId.get(c.studentId)!
      const mark = c.fromReadings ? c.fromReadings.mark : c.mark
      const remark = remarks.get(`${c.studentId} ${c.assessmentId}`) ?? ''
      yield { ...c, candidate, name, sectionId, externalId: outside.get(c.studentId) ?? null, mark, remark }
    }
  }
  const inSheet = new Set(assessments.map((a) => a.id))
  return writeRosterResults(
    { ...of, assessments: of.assessments.filter((a) => inSheet.has(a.id)), placements, names: namesAmong(known) },
    results(),
  )
}
