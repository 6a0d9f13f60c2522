import { z } from 'zod'
import { Role } from './course'

/** What a course taken out elsewhere would be here. */
export const TriedPackage = z.strictObject({
  course: z.string(),
  counts: z.strictObject({
    sections: z.number().int(),
    students: z.number().int(),
    assessments: z.number().int(),
    scripts: z.number().int(),
    readings: z.number().int(),
    decisions: z.number().int(),
    issues: z.number().int(),
  }),
  /** Entries of the library that it uses. */
  standards: z.strictObject({ added: z.number().int(), known: z.number().int() }),
  people: z.array(
    z.strictObject({
      name: z.string(),
      signIn: z.string(),
      /** What whoever has that sign-in here is called; null where nobody has it, and they are added. */
      here: z.string().nullable(),
      /** Their part in the course; null where they have none any more. */
      role: Role.nullable(),
    }),
  ),
  /** Whether it was begun before and did not come to its end. */
  goesOn: z.boolean(),
})
export type TriedPackage = z.infer<typeof TriedPackage>
