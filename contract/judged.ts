import { z } from 'zod'
import type { StandardCriterion } from '#core/scales'
import { Column, FewColumn, packColumn, packFew, unpackColumn, unpackFew } from './columns'
import { Id } from './course'
import { says } from './says'

/** One criterion that readings were judged by, levels from the lowest up; without levels points are free from 0 to `max`. */
export const JudgedCriterion = says<StandardCriterion>()(
  z.strictObject({
    id: Id,
    title: z.string(),
    max: z.number(),
    penalty: z.boolean(),
    levels: z.array(z.strictObject({ points: z.number(), to: z.number().nullable(), words: z.string() })),
  }),
)
export type JudgedCriterion = StandardCriterion

/** The handed-in readings of an assessment, criterion by criterion, as columns; points NaN where nothing was judged. */
export const JudgedInColumns = z.strictObject({
  assessmentId: Id,
  criteria: z.array(JudgedCriterion),
  /** Whose scripts were read, and by whom: the columns hold places in these. */
  students: z.array(Id),
  markers: z.array(Id),
  student: Column('i32'),
  marker: Column('u16'),
  mark: FewColumn,
  /** A column for each criterion. */
  points: z.array(FewColumn),
  /** Scripts on which criteria were agreed one by one, and on what. */
  agreed: z.strictObject({ student: Column('i32'), points: z.array(FewColumn) }),
})
export type JudgedInColumns = z.infer<typeof JudgedInColumns>

type Columns = 'student' | 'marker' | 'mark' | 'points' | 'agreed'
export interface JudgedReadings extends Omit<JudgedInColumns, Columns> {
  student: ArrayLike<number>
  marker: ArrayLike<number>
  mark: ArrayLike<number>
  points: ArrayLike<number>[]
  agreed: { student: ArrayLike<number>; points: ArrayLike<number>[] }
}

export const packJudged = ({ student, marker, mark, points, agreed, ...rest }: JudgedReadings): JudgedInColumns => ({
  ...rest,
  student: packColumn('i32', student),
  marker: packColumn('u16', marker),
  mark: packFew(mark),
  points: points.map(packFew),
  agreed: { student: packColumn('i32', agreed.student), points: agreed.points.map(packFew) },
})

export const unpackJudged = ({ student, marker, mark, points, agreed, ...rest }: JudgedInColumns): JudgedReadings => ({
  ...rest,
  student: unpackColumn('i32', student),
  marker: unpackColumn('u16', marker),
  mark: unpackFew('f64', mark),
  points: points.map((column) => unpackFew('f64', column)),
  agreed: { student: unpackColumn('i32', agreed.student), points: agreed.points.map((column) => unpackFew('f64', column)) },
})
