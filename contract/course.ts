import './no-made-code'
import { MARKINGS, type Marking as MarkingOf } from '#core/marking'
import { ROLES, type Role as RoleOf } from '#core/roles'
import { z } from 'zod'
import {
  STATUSES,
  type Assessment as CoreAssessment,
  type Boundary as CoreBoundary,
  type Component as CoreComponent,
  type Condition as CoreCondition,
  type Placement as CorePlacement,
  type Policy as CorePolicy,
} from '#core/grades'
import { isPlainName } from '#core/roll'
import type { KeptCondition as CoreKeptCondition } from '#core/trial'
import { holds, says } from './says'

/** Ids are opaque strings. */
export const Id = z.string().min(1).max(80)
/** What is called something: no control or hidden character, which would turn what stands beside it round. */
export const plainName = (text: z.ZodString) => text.refine(isPlainName, 'It holds hidden characters: type it as plain text.')
export const Title = plainName(z.string().trim().min(1, 'Give it a title.').max(200, 'At most 200 characters.'))

const CourseCode = plainName(z.string().trim().min(1, 'Give the course a code.').max(40))
const TermName = plainName(z.string().trim().min(1, 'Say which term.').max(80))
/** What a course is called and when it is taught. */
export const CourseNamed = z.strictObject({
  code: CourseCode,
  title: Title,
  term: TermName,
  firstDay: z.iso.date('Give the first teaching day.'),
  lastDay: z.iso.date('Give the last teaching day.'),
})

/** What has teaching days has the last one after the first. */
export const inOrder = <T extends z.ZodType<{ firstDay: string; lastDay: string }>>(named: T) =>
  named.refine((c) => c.lastDay > c.firstDay, { path: ['lastDay'], message: 'The last day must come after the first.' })

const threeDecimals = (x: number) => Math.abs(x * 1000 - Math.round(x * 1000)) < 1e-6
/** A mark, worth or weight: a decimal with at most 3 places. */
export const Decimal = z.number().refine(threeDecimals, 'At most 3 decimals.')
export const Mark = Decimal.min(-10_000).max(10_000)
export const Weight = Decimal.min(0, 'Not below 0.').max(10_000)

export const Status = z.enum(STATUSES)
export const DaysLate = z.number().int().min(0).max(366)

export const Policy = says<CorePolicy>()(
  z.strictObject({
    missing: z.discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('zero') }),
      z.strictObject({ kind: z.literal('pending') }),
      z.strictObject({ kind: z.literal('floor'), percent: z.number().min(0).max(100) }),
    ]),
    absent: z.discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('pending') }),
      z.strictObject({ kind: z.literal('zero') }),
      z.strictObject({ kind: z.literal('exempt') }),
    ]),
    late: z.discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('none') }),
      z.strictObject({ kind: z.literal('cap'), percent: z.number().min(0).max(100) }),
      z.strictObject({ kind: z.literal('perDay'), percent: z.number().min(0).max(100), maxDays: z.number().int().min(0).nullable() }),
    ]),
    rounding: z.strictObject({ decimals: z.union([z.literal(0), z.literal(1), z.literal(2)]) }).nullable(),
    above100: z.enum(['allow', 'cap']),
  }),
)
export type Policy = CorePolicy

export const Boundary = says<CoreBoundary>()(z.strictObject({ grade: plainName(z.string().max(60)), from: z.number() }))

const asks = { least: z.number().min(0).max(1000), atMost: plainName(z.string().min(1).max(60)) }
const onComponent = { componentId: Id, ...asks }
const onAssessment = { assessmentId: Id, ...asks }
export const Condition = says<CoreCondition>()(z.union([z.strictObject(onComponent), z.strictObject(onAssessment)]))
export const KeptCondition = says<CoreKeptCondition>()(
  z.union([z.strictObject({ id: Id, ...onComponent }), z.strictObject({ id: Id, ...onAssessment })]),
)

/** A set of grades that the department keeps to start courses from. */
export const GradeSet = z.strictObject({ id: Id, name: z.string(), grades: z.array(Boundary), by: z.string(), own: z.boolean() })
export type GradeSet = z.infer<typeof GradeSet>

export const Role = says<RoleOf>()(z.enum(ROLES))
export type Role = RoleOf

export const CourseHead = z.strictObject({
  id: Id,
  code: z.string(),
  title: z.string(),
  term: z.string(),
  firstDay: z.iso.date(),
  lastDay: z.iso.date(),
  role: Role,
  sections: z.number().int(),
  students: z.number().int(),
  /** Number of the issue that the course is closed by; null while it is open. */
  confirmedIssue: z.number().int().nullable(),
  /** The issue that counts: the latest that all who must have signed and nobody objects to; a reopened one as well. */
  issueInForce: z.number().int().nullable(),
  /** When it was put away, so that it can be read and not changed; null where it was not. */
  awayAt: z.string().nullable(),
  /** When names and works were erased from it for good; null where they were not. */
  namelessAt: z.string().nullable(),
})
export type CourseHead = z.infer<typeof CourseHead>

export const Section = z.strictObject({ id: Id, code: z.string(), name: z.string(), teacher: z.string().nullable() })
export type Section = z.infer<typeof Section>

export const Student = z.strictObject({ id: Id, name: z.string(), candidate: z.string(), sectionId: Id })
export type Student = z.infer<typeof Student>

/** What was never typed in is null. */
type Untyped<T, K extends keyof T> = Omit<T, K> & { [F in K]: T[F] | null }

export const Component = holds<Untyped<CoreComponent, 'weight'>>()(
  z.strictObject({
    id: Id,
    title: z.string(),
    weight: Weight.nullable(),
    combine: z.enum(['byWorth', 'equally']),
    dropLowest: z.number().int().min(0),
    bonus: z.boolean(),
    version: z.number().int(),
  }),
)
export type Component = z.infer<typeof Component>

export const Marking = says<MarkingOf>()(z.enum(MARKINGS))
export type Marking = MarkingOf

/** How an assessment uses its standard. */
export const StandardUse = z.strictObject({
  /** Students see the words before the work is due. */
  studentsBefore: z.boolean(),
  /** Markers do not see the points while they mark. */
  hidePoints: z.boolean(),
  /** Markers do not see the words of the levels while they mark. */
  hideWords: z.boolean(),
  criterionComments: z.boolean(),
  /** Where the standard has ranges, any point inside one may be given. */
  ranges: z.boolean(),
  /** Students see what was remarked, with their mark. */
  remarks: z.boolean(),
  /** What is noted on beside an overall judgement; such a note never sets the mark. */
  noteOn: z
    .array(plainName(z.string().trim().min(1).max(80, 'At most 80 characters each.')))
    .max(12, 'Twelve things to note on at most.')
    .refine((all) => new Set(all.map((t) => t.toLowerCase())).size === all.length, 'One of them stands there twice.'),
})
export type StandardUse = z.infer<typeof StandardUse>
export const USUAL_USE: StandardUse = {
  studentsBefore: false,
  hidePoints: false,
  hideWords: false,
  criterionComments: true,
  ranges: true,
  remarks: true,
  noteOn: [],
}

export const Assessment = holds<Untyped<CoreAssessment, 'worth'>>()(
  z.strictObject({
    id: Id,
    componentId: Id,
    title: z.string(),
    marking: Marking,
    outOf: Decimal.positive(),
    worth: Weight.nullable(),
    /** The worth goes with what it is marked out of, until somebody types another. */
    worthFollows: z.boolean(),
    counts: z.boolean(),
    bonus: z.boolean(),
    droppable: z.boolean(),
    passMark: Decimal.nullable(),
    /** Largest spread of readings that needs no person to decide. */
    tolerance: Decimal.min(0),
    readingsWanted: z.number().int().min(1),
    /** Agreed marks are rounded half up to a multiple of it. */
    step: Decimal.positive().nullable(),
    /** The rubric, mark scheme or scale in use. */
    standardId: Id.nullable(),
    use: StandardUse,
    /** For those who set and mark it. */
    notes: z.string(),
    version: z.number().int(),
  }),
)
export type Assessment = z.infer<typeof Assessment>

export const Placement = holds<CorePlacement>()(z.strictObject({ assessmentId: Id, sectionId: Id, due: z.iso.date().nullable() }))
export type Placement = z.infer<typeof Placement>
