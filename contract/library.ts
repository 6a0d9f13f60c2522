import { z } from 'zod'
import type { Criterion, MarkScheme, RubricLevel, Scale } from '#core/scales'
import type { OutcomeRule as RuleOf } from '#core/outcomes'
import { Id, plainName, Title } from './course'
import { holds, says } from './says'

const Points = z.number().min(0, 'Not below 0.').max(10_000)
const Words = z.string().max(2000, 'At most 2000 characters.')

export const RubricCriterion = holds<Omit<Criterion, 'levels'>>()(
  z.strictObject({
    id: Id,
    title: Title,
    /** What it is about, where its title does not say enough. */
    description: Words.optional(),
    /** Any point inside a level's range may be given. */
    ranges: z.boolean(),
    penalty: z.boolean(),
    levels: z
      .array(
        holds<RubricLevel>()(
          z.strictObject({
            points: Points,
            to: Points.optional(),
            name: plainName(z.string().max(120, 'At most 120 characters.')).optional(),
            words: Words,
            comment: Words.optional(),
          }),
        ),
      )
      .max(60, 'At most 60 levels.'),
    /** Outcomes that it gives evidence of. */
    outcomeIds: z.array(Id).max(40).optional(),
  }),
)
export type RubricCriterion = z.infer<typeof RubricCriterion>

export const RubricBody = z.strictObject({
  criteria: z.array(RubricCriterion).max(60, 'At most 60 criteria.'),
  /** Words for the whole, by the percent from which they hold. */
  bands: z
    .array(z.strictObject({ from: z.number().min(0).max(100), words: Words }))
    .max(20)
    .optional(),
  /** Shown from the best level down. */
  descending: z.boolean().optional(),
  /** All criteria have the same levels, and are changed together. */
  alike: z.boolean().optional(),
})
export type RubricBody = z.infer<typeof RubricBody>
export const SchemeBody = z.strictObject({
  criteria: z
    .array(
      holds<MarkScheme['criteria'][number]>()(
        z.strictObject({
          id: Id,
          title: Title,
          max: z.number().positive('Must be above 0.').max(10_000),
          words: Words,
          notes: Words.optional(),
        }),
      ),
    )
    .max(100, 'At most 100 criteria.'),
})
export type SchemeBody = z.infer<typeof SchemeBody>
export const ScaleBody = says<Scale>()(
  z.strictObject({
    labels: z
      .array(
        z.strictObject({
          label: plainName(z.string().max(120)),
          percent: z.number().min(0).max(1000),
          threshold: z.number().min(0).max(1000),
        }),
      )
      .max(120, 'At most 120 labels.'),
  }),
)

export type ScaleBody = z.infer<typeof ScaleBody>

export const OutcomeRule = says<RuleOf>()(
  z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('latest') }),
    z.strictObject({ kind: z.literal('highest') }),
    z.strictObject({ kind: z.literal('mean') }),
    /** Recent results weigh more: s = α·x + (1 − α)·s. */
    z.strictObject({ kind: z.literal('recent'), alpha: z.number().min(0.05).max(1) }),
    /** So many results at or above the level, of the last so many or of all. */
    z.strictObject({ kind: z.literal('times'), times: z.number().int().min(1).max(100), of: z.number().int().min(1).max(100).nullable() }),
  ]),
)
export type OutcomeRule = RuleOf

/** What students should be able to do; its title is its short name. */
export const OutcomeBody = z.strictObject({
  statement: Words,
  /** From the lowest up; a level's value is its place, from 1. */
  levels: z.array(z.strictObject({ label: plainName(z.string().max(120)), words: Words })).max(20, 'At most 20 levels.'),
  /** The lowest level that counts as reached, from 1. */
  reached: z.number().int().min(1).max(20),
  rule: OutcomeRule,
  /** Groups that it stands in, the widest first. */
  group: z
    .array(plainName(z.string().trim().min(1).max(120)))
    .max(6, 'Six groups within each other at most.')
    .optional(),
})
export type OutcomeBody = z.infer<typeof OutcomeBody>

export const StandardState = z.enum(['draft', 'ready', 'retired'])
export type StandardState = z.infer<typeof StandardState>

const Use = z.strictObject({
  courseId: Id,
  course: z.string(),
  assessmentId: Id,
  assessment: z.string(),
  outOf: z.number(),
  /** The version in use there. */
  standardId: Id,
  version: z.number().int(),
  /** Readings made there by an earlier version than the one in use, and not carried over. */
  behind: z.number().int(),
  /** What of it markers do not see while they mark there. */
  hidesPoints: z.boolean(),
  hidesWords: z.boolean(),
})

/** A change that somebody would like to see, for the owner to take over or decline. */
export const Suggestion = z.strictObject({
  id: Id,
  by: z.string(),
  at: z.string(),
  words: z.string(),
  /** The copy that has the change in it. */
  copyId: Id.nullable(),
  answer: z.enum(['taken over', 'declined']).nullable(),
  reply: z.string(),
})
export type Suggestion = z.infer<typeof Suggestion>
const head = {
  id: Id,
  title: z.string(),
  ownerId: Id,
  owner: z.string(),
  version: z.number().int(),
  state: StandardState,
  /** Raised by every edit. */
  revision: z.number().int(),
  /** Whether readings use this version, which then never changes: an edit makes the next one. */
  read: z.boolean(),
  uses: z.array(Use),
  /** A newer version has taken its place; it is listed because it is still in use. */
  superseded: z.boolean(),
  /** The first version of its line, which is the same for all of them. */
  lineId: Id,
  /** The entry that it is a copy of. */
  copiedFrom: Id.nullable(),
  suggestions: z.array(Suggestion),
  /** What of it is not sent, since one marks by it somewhere without seeing that; absent where all is. */
  hides: z.strictObject({ points: z.boolean(), words: z.boolean() }).optional(),
}

export const Library = z.strictObject({
  rubrics: z.array(z.strictObject({ ...head, ...RubricBody.shape })),
  schemes: z.array(z.strictObject({ ...head, ...SchemeBody.shape })),
  scales: z.array(z.strictObject({ ...head, ...ScaleBody.shape })),
  outcomes: z.array(z.strictObject({ ...head, ...OutcomeBody.shape })),
})
export type Library = z.infer<typeof Library>

const SchemeStandard = z.strictObject({ kind: z.literal('scheme'), title: Title, body: SchemeBody })
const ScaleStandard = z.strictObject({ kind: z.literal('scale'), title: Title, body: ScaleBody })
/** What is made or edited: a kind with its body. */
export const Standard = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('rubric'), title: Title, body: RubricBody }),
  SchemeStandard,
  ScaleStandard,
  z.strictObject({ kind: z.literal('outcome'), title: Title, body: OutcomeBody }),
])
export type Standard = z.infer<typeof Standard>

export const StandardId = z.strictObject({ id: Id })
/** What was edited, or the version that the edit made. */
export const StandardEdited = z.strictObject({ id: Id, revision: z.number().int() })

const MAX_FILE = 12_000_000
export const LibraryUpload = z.strictObject({
  /** The file's bytes in base64. */
  file: z.string().max(Math.ceil(MAX_FILE / 3) * 4, 'The file is over 12 MB: copy the table out of it and paste that.'),
})

/** What a file holds: tables to be read as a rubric, or rubrics as they are. */
export const LibraryFile = z.strictObject({
  tables: z.array(z.array(z.array(z.string()))),
  rubrics: z.array(
    RubricBody.extend({
      title: z.string(),
      /** By which the file names it; null where it does not. */
      source: z.string().nullable(),
      /** Levels that the file gives no score, by the places of criterion and level. */
      unscored: z.array(z.strictObject({ criterion: z.number().int(), level: z.number().int() })).optional(),
      /** The entry that was made from it, or that it was taken out of. */
      known: z.strictObject({ id: Id, title: z.string(), same: z.boolean() }).nullable(),
    }),
  ),
  /** Mark schemes and scales, as what they are. */
  others: z.array(
    z.strictObject({
      standard: z.discriminatedUnion('kind', [SchemeStandard, ScaleStandard]),
      source: z.string().nullable(),
      known: z.strictObject({ id: Id, title: z.string(), same: z.boolean() }).nullable(),
    }),
  ),
  /** Outcomes that come with the rubrics; criteria name them by these ids. One that is here already says as what. */
  outcomes: z.array(OutcomeBody.extend({ id: Id, title: z.string(), known: Id.nullable() })),
  /** What the file says that it does not hold. */
  notes: z.array(z.string()),
})
export type LibraryFile = z.infer<typeof LibraryFile>

/** A version of an entry, with what is in it. */
export const RubricVersion = z.strictObject({
  id: Id,
  version: z.number().int(),
  editedAt: z.string().nullable(),
  readings: z.number().int(),
  body: RubricBody,
})
export type RubricVersion = z.infer<typeof RubricVersion>
