import { z } from 'zod'

export const KeptBackUp = z.strictObject({
  name: z.string(),
  at: z.string(),
  bytes: z.number().int(),
  /** Of the database’s schema. */
  version: z.number().int(),
  rows: z.number().int(),
})

/** What is erased where a course is made nameless, in rows. */
export const Erased = z.strictObject({
  students: z.number().int(),
  works: z.number().int(),
  deliveries: z.number().int(),
  /** Comments and notes to readings, with those of earlier states. */
  remarks: z.number().int(),
  /** Rolls that were brought in, as they were before. */
  rolls: z.number().int(),
  letters: z.number().int(),
  /** Lists of numbers that were sent to the records office. */
  sent: z.number().int(),
  /** Reasons of decisions and their like in which a student's name stands: a person says which of them are erased. */
  reasons: z.array(z.string()),
})
export type Erased = z.infer<typeof Erased>

export const Keeping = z.strictObject({
  folder: z.string(),
  /** Hours between backups; 0 makes none by itself. */
  hours: z.number(),
  keep: z.number().int(),
  /** The latest good one is older than two of them should be, or there is none. */
  old: z.boolean(),
  /** Why the last one failed; null where it did not. */
  problem: z.string().nullable(),
  /** The latest first. */
  backups: z.array(KeptBackUp),
})
export type Keeping = z.infer<typeof Keeping>
