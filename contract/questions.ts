import { z } from 'zod'
import { Id } from './course'

/** A question that a student asks about a mark of theirs. */
export const AskQuestion = z.strictObject({
  assessmentId: Id,
  /** What it is about; null for the mark as a whole. */
  criterionId: Id.nullable(),
  reason: z.string().trim().min(10, 'Say what should be looked at again, and why.').max(2000, 'At most 2000 characters.'),
})
export const Answer = z.strictObject({
  words: z.string().trim().min(1, 'Answer in words.').max(2000, 'At most 2000 characters.'),
})

const Asked = z.strictObject({
  id: Id,
  /** The criterion by its title; null for the mark as a whole. */
  about: z.string().nullable(),
  reason: z.string(),
  at: z.iso.datetime(),
  /** The mark as it was then. */
  markThen: z.number().nullable(),
  answer: z.strictObject({ words: z.string(), at: z.iso.datetime() }).nullable(),
})

/** A student’s own asking about one mark. */
export const OwnAsking = z.strictObject({
  /** The last day on which it may be asked; null where it is over. */
  until: z.iso.date().nullable(),
  /** Criteria that a question can be about. */
  criteria: z.array(z.strictObject({ id: Id, title: z.string() })),
  questions: z.array(Asked),
})
export type OwnAsking = z.infer<typeof OwnAsking>

/** A question as those who can answer it see it. */
export const Question = Asked.extend({
  studentId: Id,
  assessmentId: Id,
  scriptId: Id,
  /** By name, or by number where names are not shown. */
  student: z.string(),
  candidate: z.string(),
  section: z.string(),
  assessment: z.string(),
  outOf: z.number(),
  answeredBy: z.string().nullable(),
})
export type Question = z.infer<typeof Question>
