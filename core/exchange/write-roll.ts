import { writeDelimited } from './write-delimited'
import type { Day } from '../roll/days'
import type { Stay } from '../roll/stays'
import { ROLL_FIELDS, type RollField } from '../roll/roll-fields'
import { writeWeekdays } from './weekdays'
import type { ColumnKind } from './workbook'

export interface WrittenRoll {
  sections: readonly {
    id: string
    code: string
    name: string
    teacher: string | null
    teacherId: string | null
    weekdays: readonly number[]
    firstDay: Day | null
  }[]
  students: readonly {
    id: string
    candidate: string
    name: string
    externalId: string | null
    signIn: string | null
    stays: readonly Stay[]
  }[]
}

/** The columns of a roll as we write it, in their order. */
export const ROLL_HEADER: readonly RollField[] = ROLL_FIELDS.filter((f) => f !== 'given name' && f !== 'family name')

const DAYS: readonly string[] = ['starts', 'from', 'to'] satisfies RollField[]
/** What stands in a column of a roll: its days are days, and numbers that are names keep their zeros. */
export const rollKind = (field: string): ColumnKind => (DAYS.includes(field) ? 'day' : 'text')

/** A roll as a table that reads back as the same: one row for each student's time in a section. */
export function writeRollTable({ sections, students }: WrittenRoll): { header: string[]; rows: string[][] } {
  const of = new Map(sections.map((s) => [s.id, s]))
  const rows = students.flatMap((s) =>
    s.stays.map((stay) => {
      const section = of.get(stay.sectionId)!
      return [
        s.candidate,
        s.name,
        section.code,
        section.name,
        section.teacher ?? '',
        writeWeekdays(section.weekdays),
        section.firstDay ?? '',
        s.externalId ?? '',
        s.signIn ?? '',
        stay.from,
        stay.to ?? '',
      ]
    }),
  )
  return { header: [...ROLL_HEADER], rows }
}

/** RFC 4180 with BOM; a text that a spreadsheet would run as a formula is kept a text. */
export function writeRollCsv(roll: WrittenRoll): string {
  const { header, rows } = writeRollTable(roll)
  return writeDelimited([header, ...rows])
}
