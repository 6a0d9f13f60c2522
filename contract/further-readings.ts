import { z } from 'zod'
import { Id } from './course'

/** A reading beyond those shared out, asked for by name or of whoever suits. */
export const AskedReading = z.strictObject({
  assessmentId: Id,
  studentId: Id,
  markerId: Id,
  because: z.string(),
  askedAt: z.string(),
  /** What came of it. */
  state: z.enum(['waiting', 'begun', 'handed in']),
})
export type AskedReading = z.infer<typeof AskedReading>

export const FurtherReadings = z.strictObject({
  wanted: z
    .array(
      z.strictObject({
        assessmentId: Id,
        studentId: Id,
        /** Null for whoever can be compared with those who read it, does not teach the section, and has least to do. */
        markerId: Id.nullable(),
      }),
    )
    .min(1)
    .max(500, 'At most 500 readings at once.'),
  because: z.string().trim().min(1, 'Say why, in a few words.').max(500, 'At most 500 characters.'),
})
export type FurtherReadings = z.infer<typeof FurtherReadings>
