import { z } from 'zod'
import { isScriptIdOf, type TableLike } from '#core/trial'
import { atOnce } from './at-once'
import { Column, packColumn, unpackColumn } from './columns'
import { DaysLate, Id, Status } from './course'
import { CourseTable } from './table'

/** Of each column of the scripts and the readings, what its numbers are. */
const SCRIPTS = { student: 'i32', assessment: 'u16', status: 'u8', daysLate: 'u16', entered: 'f64' } as const
const READINGS = { script: 'i32', marker: 'u16', mark: 'f64' } as const

/** What a course is beside its scripts and readings. */
export const TablePlan = CourseTable.omit({ scripts: true, readings: true })
export type TablePlan = z.infer<typeof TablePlan>

/** The table as it travels: hundreds of thousands of scripts as columns of numbers. */
export const TableInColumns = TablePlan.extend({
  scripts: z.strictObject({
    /** Places of the scripts whose id is not the assessment's and the student's with a colon between, and their ids. */
    otherIds: z.array(z.tuple([z.number().int(), Id])),
    student: Column(SCRIPTS.student),
    assessment: Column(SCRIPTS.assessment),
    status: Column(SCRIPTS.status),
    daysLate: Column(SCRIPTS.daysLate),
    entered: Column(SCRIPTS.entered),
  }),
  readings: z.strictObject({ script: Column(READINGS.script), marker: Column(READINGS.marker), mark: Column(READINGS.mark) }),
})
export type TableInColumns = z.infer<typeof TableInColumns>

/** One script as it stands now, with the readings of it that were handed in, in that order. */
export const TableCell = z.strictObject({
  studentId: Id,
  assessmentId: Id,
  status: Status,
  daysLate: DaysLate,
  entered: z.number().nullable(),
  readings: z.array(z.strictObject({ markerId: Id, mark: z.number() })),
  agreed: z.number().nullable(),
  /** The word for the rule it was agreed by, where its readings alone decide. */
  agreedBy: z.string().nullable(),
  reopened: z.boolean(),
})
export type TableCell = z.infer<typeof TableCell>

/** What was written since a version: all that was, or null where more than this says has changed and all is to be fetched anew. */
export const TableSince = z
  .strictObject({
    version: z.number().int(),
    hasMarks: z.boolean(),
    cells: z.array(TableCell),
    /** Where a decision changed more than marks. */
    plan: TablePlan.nullable(),
  })
  .nullable()
export type TableSince = z.infer<typeof TableSince>

type Packable = Pick<CourseTable, 'scripts' | 'readings' | 'students' | 'assessments'>
export type PackedTable<T> = Omit<T, 'scripts' | 'readings'> & Pick<TableInColumns, 'scripts' | 'readings'>
type ScriptColumn = keyof typeof SCRIPTS

/** Packs a table column by column; whoever else is asking may be answered between them. */
export function* packingTable<T extends Packable>({ scripts, readings, ...rest }: T): Generator<void, PackedTable<T>> {
  const { students, assessments } = rest as unknown as T
  const others = yield* otherIds(scripts, students, assessments)
  const packed = {} as Record<ScriptColumn, string>
  for (const name of Object.keys(SCRIPTS) as ScriptColumn[]) {
    yield
    packed[name] = packColumn(SCRIPTS[name], scripts[name])
  }
  yield
  return {
    ...rest,
    scripts: { otherIds: others, ...packed },
    readings: {
      script: packColumn(READINGS.script, readings.script),
      marker: packColumn(READINGS.marker, readings.marker),
      mark: packColumn(READINGS.mark, readings.mark),
    },
  }
}

/** The same in one go. */
export const packTable = <T extends Packable>(table: T): PackedTable<T> => atOnce(packingTable(table))

const A_TURN = 100_000

function* otherIds(
  { id: ids, student, assessment }: CourseTable['scripts'],
  students: readonly { id: string }[],
  assessments: readonly { id: string }[],
): Generator<void, [number, string][]> {
  const others: [number, string][] = []
  for (let i = 0; i < ids.length; i++) {
    if (i % A_TURN === 0) yield
    if (!isScriptIdOf(ids[i]!, assessments[assessment[i]!]!.id, students[student[i]!]!.id)) others.push([i, ids[i]!])
  }
  return others
}

export function unpackTable<T extends Pick<TableInColumns, 'scripts' | 'readings'>>({
  scripts,
  readings,
  ...rest
}: T): Omit<T, 'scripts' | 'readings'> & Pick<TableLike, 'scripts' | 'readings'> {
  return {
    ...rest,
    scripts: {
      id: Object.fromEntries(scripts.otherIds),
      student: unpackColumn(SCRIPTS.student, scripts.student),
      assessment: unpackColumn(SCRIPTS.assessment, scripts.assessment),
      status: unpackColumn(SCRIPTS.status, scripts.status),
      daysLate: unpackColumn(SCRIPTS.daysLate, scripts.daysLate),
      entered: unpackColumn(SCRIPTS.entered, scripts.entered),
    },
    readings: {
      script: unpackColumn(READINGS.script, readings.script),
      marker: unpackColumn(READINGS.marker, readings.marker),
      mark: unpackColumn(READINGS.mark, readings.mark),
    },
  }
}
