import { z } from 'zod'
import type { EvidenceLink as LinkOf } from '#core/outcomes'
import { Id, plainName } from './course'
import { OutcomeBody } from './library'
import { says } from './says'

/** What gives evidence of an outcome in a course. */
export const EvidenceLink = says<LinkOf>()(
  z.strictObject({
    outcomeId: Id,
    assessmentId: Id,
    criterionId: Id.nullable(),
    title: z.string(),
    from: z.array(z.number()),
  }),
)

/** A result that a person noted: a conversation, a check in class. */
export const TypedEvidence = z.strictObject({
  id: Id,
  outcomeId: Id,
  studentId: Id,
  level: z.number().int().min(1).max(20),
  day: z.string(),
  note: z.string(),
  by: z.string(),
  at: z.iso.datetime(),
})
export type TypedEvidence = z.infer<typeof TypedEvidence>

export const CourseOutcome = z.strictObject({
  id: Id,
  title: z.string(),
  ...OutcomeBody.shape,
  /** Whether it is one’s own in the library, so that its rule can be set. */
  mine: z.boolean(),
  owner: z.string(),
  revision: z.number().int(),
  /** Whether students of the course see where they stand on it. */
  shown: z.boolean(),
  /** Assessments whose overall judgement counts as evidence. */
  judgements: z.array(Id),
})
export type CourseOutcome = z.infer<typeof CourseOutcome>

export const CourseOutcomes = z.strictObject({
  outcomes: z.array(CourseOutcome),
  links: z.array(EvidenceLink),
  /** Assessments whose overall judgement could count. */
  judged: z.array(Id),
  typed: z.array(TypedEvidence),
})
export type CourseOutcomes = z.infer<typeof CourseOutcomes>

/** What each level is worth, in percent, from the lowest up. */
export const LevelPercents = z.array(z.number().min(0, 'Not below 0.').max(100, 'At most 100.')).min(1).max(20)
/** Where it comes from what levels are worth. */
export const LevelsWorth = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('typed'), percents: LevelPercents }),
  /** Read off a scale of the library: the label of each level, by its place from 0, from the lowest level up. */
  z.strictObject({ kind: z.literal('scale'), scaleId: Id, labels: z.array(z.number().int().min(0).max(119)).min(1).max(20) }),
])
export type LevelsWorth = z.infer<typeof LevelsWorth>
/** An assessment whose marks are where students stand on an outcome. */
export const ByStanding = z.strictObject({
  assessmentId: Id,
  outcomeId: Id,
  outcome: z.string(),
  worth: LevelsWorth,
  percents: LevelPercents,
  /** The scale that it is read off, with the label of each level. */
  scale: z.strictObject({ title: z.string(), labels: z.array(z.string()) }).nullable(),
})
export type ByStanding = z.infer<typeof ByStanding>

const counts = z.strictObject({ perLevel: z.array(z.number().int()), none: z.number().int(), reached: z.number().int() })
/** How many of a course stand at each level of its outcomes, of all and section by section. */
export const SharesOfCourse = z.strictObject({
  term: z.string(),
  outcomes: z.array(
    z.strictObject({
      outcomeId: Id,
      levels: z.number().int(),
      all: counts,
      sections: z.array(z.strictObject({ name: z.string(), counts })),
    }),
  ),
})
export type SharesOfCourse = z.infer<typeof SharesOfCourse>

export const OutcomeInCourse = z.strictObject({ shown: z.boolean(), judgements: z.array(Id).max(200) })

export const EvidenceTyped = z.strictObject({
  studentId: Id,
  level: z.number().int().min(1).max(20),
  day: z.iso.date('Give the day.'),
  note: z.string().trim().min(1, 'Say what it rests on, in a few words.').max(2000, 'At most 2000 characters.'),
})

/** People who were found together and are kept under a name. */
export const MOST_GROUPS = 60
export const GroupName = plainName(z.string().trim().min(1, 'Give it a name.').max(120, 'At most 120 characters.'))
export const PeopleGroup = z.strictObject({ id: Id, name: z.string(), studentIds: z.array(Id), by: z.string(), at: z.iso.datetime() })
export type PeopleGroup = z.infer<typeof PeopleGroup>
export const GroupKept = z.strictObject({ name: GroupName, studentIds: z.array(Id).min(1, 'Nobody is in it.').max(20_000) })
