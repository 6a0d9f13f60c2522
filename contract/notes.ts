import { z } from 'zod'
import { Id } from './course'

/** What a note is about: what stands in a row of Compare, a script at Reconcile, or a decision. */
export const NoteAbout = z.strictObject({
  kind: z.enum(['section', 'marker', 'script', 'decision']),
  id: Id,
  /** Where it is about one assessment alone. */
  assessmentId: Id.nullable(),
})
export type NoteAbout = z.infer<typeof NoteAbout>

export const Note = z.strictObject({
  id: Id,
  about: NoteAbout,
  by: z.string(),
  words: z.string(),
  at: z.iso.datetime(),
  answer: z.strictObject({ words: z.string(), by: z.string(), at: z.iso.datetime() }).nullable(),
})
export type Note = z.infer<typeof Note>
