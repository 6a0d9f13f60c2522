import { z } from 'zod'
import type {
  ChangedResult as ChangedOf,
  IssueContent as ContentOf,
  IssuedResult as ResultOf,
  IssueDifference as DifferenceOf,
} from '#core/issues'
import { Boundary, DaysLate, Id, Policy, Role, Status } from './course'
import { says } from './says'

const IssuedMark = z.strictObject({
  mark: z.number().nullable(),
  plain: z.number().optional(),
  status: Status,
  daysLate: DaysLate,
})

export const IssueResult = says<ResultOf>()(
  z.strictObject({
    studentId: Id,
    candidate: z.string(),
    name: z.string(),
    section: z.string(),
    final: z.number().nullable(),
    adjusted: z.number().nullable().optional(),
    rounded: z.number().nullable(),
    grade: z.string().nullable(),
    pending: z.number().int(),
    components: z.array(z.strictObject({ title: z.string(), percent: z.number().nullable() })),
    marks: z.array(z.union([z.number(), IssuedMark]).nullable()).optional(),
    dropped: z.array(z.number().int()).optional(),
    heldBy: z.array(z.number().int()).optional(),
    chance: z.number().nullable().optional(),
  }),
)
export type IssueResult = ResultOf

const IssuedDecision = z.strictObject({ kind: z.string(), summary: z.string(), reason: z.string(), by: z.string(), at: z.iso.datetime() })

/** What is frozen and hashed. */
export const IssueContent = says<ContentOf>()(
  z.strictObject({
    course: z.strictObject({ code: z.string(), title: z.string(), term: z.string() }),
    number: z.number().int(),
    policy: Policy,
    boundaries: z.array(Boundary),
    components: z.array(z.strictObject({ title: z.string(), weight: z.number().nullable(), bonus: z.literal(true).optional() })),
    assessments: z
      .array(
        z.strictObject({
          title: z.string(),
          component: z.string(),
          outOf: z.number(),
          worth: z.number().nullable(),
          counts: z.boolean(),
          bonus: z.boolean(),
        }),
      )
      .optional(),
    conditions: z.array(z.strictObject({ on: z.string(), least: z.number(), atMost: z.string() })).optional(),
    adjustments: z.array(z.string()).optional(),
    decisions: z.array(IssuedDecision).optional(),
    results: z.array(IssueResult),
  }),
)
export type IssueContent = ContentOf

const IssuedFigures = z.strictObject({
  section: z.string(),
  final: z.number().nullable(),
  rounded: z.number().nullable(),
  grade: z.string().nullable(),
  adjusted: z.number().nullable(),
})
export const ChangedResult = says<ChangedOf>()(
  z.strictObject({
    studentId: Id,
    candidate: z.string(),
    name: z.string(),
    is: z.enum(['in both', 'new', 'gone']),
    was: IssuedFigures.nullable(),
    now: IssuedFigures.nullable(),
    marks: z.array(
      z.strictObject({
        assessment: z.string(),
        was: IssuedMark.nullable(),
        now: IssuedMark.nullable(),
        by: z.array(z.strictObject({ who: z.string(), did: z.enum(['typed', 'read', 'settled', 'took back']), at: z.string() })),
      }),
    ),
  }),
)
export const IssueDifference = says<DifferenceOf>()(
  z.strictObject({
    from: z.number().int(),
    to: z.number().int(),
    students: z.array(ChangedResult),
    grades: z.number().int(),
    also: z.array(z.enum(['boundaries', 'weights', 'policies', 'conditions', 'rescaling', 'the plan'])),
    decided: z.array(IssuedDecision),
    withdrawn: z.array(IssuedDecision),
  }),
)

/** What making an issue consists of, in its order. */
export const MAKING_STEPS = [
  'reading the marks',
  'grading everybody',
  'telling how sure each grade is',
  'writing every result down',
  'sealing it',
] as const
export const MakingStep = z.enum(MAKING_STEPS)
export type MakingStep = z.infer<typeof MakingStep>

/** Who may have to sign. */
export const SIGNERS = ['lead', 'external'] as const
export const Signers = z.array(z.enum(SIGNERS)).min(1, 'Somebody has to sign.').max(6)
export type Signers = z.infer<typeof Signers>

export const Signature = z.strictObject({
  by: z.string(),
  role: z.string(),
  at: z.iso.datetime(),
  statement: z.string(),
  /** The content that it was given to. */
  hash: z.string(),
})

export const Objection = z.strictObject({
  id: Id,
  by: z.string(),
  role: z.string(),
  at: z.iso.datetime(),
  reason: z.string(),
  /** When whoever objected took it back; null while it stands. */
  takenBack: z.iso.datetime().nullable(),
  own: z.boolean(),
})

export const IssueHead = z.strictObject({
  number: z.number().int(),
  /** SHA-256 of the content as canonical JSON, in hex. */
  hash: z.string(),
  at: z.iso.datetime(),
  boundaries: z.array(Boundary),
  /** Students with each grade, best first. */
  counts: z.array(z.strictObject({ grade: z.string(), count: z.number().int() })),
  /** Without a grade: pending when it was made. */
  ungraded: z.number().int(),
  signatures: z.array(Signature),
  objections: z.array(Objection),
  /** The roles that have yet to sign. */
  waitsFor: z.array(Role),
  /** Signed by all who must, and objected to by nobody: it counts, or did until the next one. */
  counted: z.boolean(),
  /** The latest that counts. */
  inForce: z.boolean(),
  reopened: z.strictObject({ by: z.string(), at: z.iso.datetime(), reason: z.string() }).nullable(),
})
export type IssueHead = z.infer<typeof IssueHead>
