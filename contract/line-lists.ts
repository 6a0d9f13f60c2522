import { z } from 'zod'
import { Id } from './course'

/** A list that is judged at a line, as those who oversee the course see it. */
export const LineList = z.strictObject({
  id: Id,
  grade: z.string(),
  by: z.string(),
  at: z.iso.datetime(),
  closedAt: z.iso.datetime().nullable(),
  students: z.number().int(),
  judges: z.array(z.strictObject({ id: Id, name: z.string(), judged: z.number().int() })),
  /** Who was judged able, by nobody by name; none before the list is closed. */
  judgements: z.array(z.strictObject({ studentId: Id, able: z.boolean() })),
})
export type LineList = z.infer<typeof LineList>

/** What a student is called on a list, from 1 on in the order that was drawn. */
export const ListNumber = z.number().int().min(1)

/** At most so many students on a list, and so many who judge it. */
const MOST_STUDENTS = 300
const MOST_JUDGES = 20

export const NewLineList = z.strictObject({
  grade: z.string().min(1).max(60),
  studentIds: z.array(Id).min(2, 'Two students at least.').max(MOST_STUDENTS, `${MOST_STUDENTS} students at most.`),
  judgeIds: z.array(Id).min(1, 'Somebody has to judge.').max(MOST_JUDGES, `${MOST_JUDGES} people at most.`),
})

/** The same as one of those who judge sees it: numbers of that list alone, which stand nowhere else, and what they themselves said. */
export const ToJudge = z.strictObject({
  id: Id,
  grade: z.string(),
  students: z.array(z.strictObject({ number: ListNumber, able: z.boolean().nullable() })),
})
export type ToJudge = z.infer<typeof ToJudge>

/** What there is to read of a student on a list; no mark, no name. */
export const WorkToJudge = z.array(z.strictObject({ assessment: z.string(), text: z.string() }))
