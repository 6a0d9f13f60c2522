import { z } from 'zod'
import { Id, plainName } from './course'

export const CodeName = plainName(z.string().trim().min(2, 'At least two characters.').max(30, 'At most 30 characters.'))

/** What a class may see of a piece of work: its mark where that is out to them, else whether it came in. */
export const CLASS_WORDS = ['came in', 'nothing yet', 'not set', 'looked into', 'missing', 'absent', 'exempt'] as const
const ClassCell = z.union([z.number(), z.enum(CLASS_WORDS)])
export type ClassCell = z.infer<typeof ClassCell>

/** A section’s work fit for a wall: numbers and code names, and no names. */
export const ClassView = z.strictObject({
  course: z.string(),
  section: z.string(),
  assessments: z.array(z.strictObject({ id: Id, title: z.string(), outOf: z.number(), due: z.iso.date().nullable() })),
  /** In the order of their numbers, which tells no names. */
  rows: z.array(z.strictObject({ number: z.string(), codeName: z.string().nullable(), cells: z.array(ClassCell) })),
})
export type ClassView = z.infer<typeof ClassView>
