import { z } from 'zod'
import { Id, plainName } from './course'

/** The number by which the records office knows a student. */
const OfficeNumber = plainName(z.string().trim().min(1).max(80))

/** A result as it is handed over. */
export const SentResult = z.strictObject({ studentId: Id, number: z.string(), grade: z.string(), percent: z.number() })
export type SentResult = z.infer<typeof SentResult>

export const RefusedResult = z.strictObject({ studentId: Id, number: z.string(), why: z.string() })
export type RefusedResult = z.infer<typeof RefusedResult>

export const RecordsSending = z.strictObject({
  id: Id,
  number: z.number().int(),
  by: z.string(),
  at: z.iso.datetime(),
  sent: z.number().int(),
  /** Null while the office has not answered. */
  receipt: z.string().nullable(),
  /** By the office, or withdrawn from it since. */
  refused: z.array(RefusedResult),
  /** What the office took under another number than the one on the roll. */
  otherwise: z.array(z.strictObject({ studentId: Id, number: z.string() })),
})
export type RecordsSending = z.infer<typeof RecordsSending>

export const RecordsState = z.strictObject({
  list: z.array(RecordsSending),
  /** Of the issue in force: taken by the office; refused and not mended since; not sent yet; without a grade, which are not sent. */
  taken: z.number().int(),
  refused: z.array(RefusedResult.extend({ grade: z.string(), percent: z.number() })),
  waiting: z.number().int(),
  ungraded: z.number().int(),
})
export type RecordsState = z.infer<typeof RecordsState>

/** At most so many numbers are mended at once. */
const MOST_MENDED = 500

export const ToRecords = z.strictObject({
  /** Given anew for each hand-over, and kept where no answer came: sent again under it, nothing is entered twice. */
  key: z.uuid(),
  /** Numbers mended for those that were refused; without it all that the office has not taken is sent. */
  mended: z
    .array(z.strictObject({ studentId: Id, number: OfficeNumber }))
    .min(1)
    .max(MOST_MENDED)
    .optional(),
})

/** From which day the students of a section see the results in force; null for not yet. */
export const ResultRelease = z.strictObject({ sectionId: Id, onDay: z.iso.date().nullable() })
export type ResultRelease = z.infer<typeof ResultRelease>
