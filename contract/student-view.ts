import { z } from 'zod'
import { Id } from './course'

/** What students of a course see beyond their released marks, and what they may do. */
export const StudentView = z.strictObject({
  /** Where the course stands for them so far, and what they would need. */
  soFar: z.boolean(),
  /** Days from a mark’s release within which they may ask about it; null where they may not. */
  askDays: z.number().int().min(1, 'At least a day.').max(90, 'At most 90 days.').nullable(),
  /** Assessments whose work they hand in here. */
  handIn: z.array(Id),
})
export type StudentView = z.infer<typeof StudentView>

/** One thing of it set anew. */
export const StudentViewChange = z.union([
  StudentView.pick({ soFar: true }),
  StudentView.pick({ askDays: true }),
  z.strictObject({ assessmentId: Id, handedIn: z.boolean() }),
])
export type StudentViewChange = z.infer<typeof StudentViewChange>
