import { z } from 'zod'
import { Boundary, Id, Policy } from './course'

export const IssueResult = z.strictObject({
  studentId: Id,
  candidate: z.string(),
  name: z.string(),
  section: z.string(),
  final: z.number().nullable(),
  /** The percent that was rounded and graded, where the course percent itself was rescaled. */
  adjusted: z.number().nullable().optional(),
  rounded: z.number().nullable(),
  grade: z.string().nullable(),
  pending: z.number().int(),
  components: z.array(z.strictObject({ title: z.string(), percent: z.number().nullable() })),
})
export type IssueResult = z.infer<typeof IssueResult>

/** What is frozen and hashed. */
export const IssueContent = z.strictObject({
  course: z.strictObject({ code: z.string(), title: z.string(), term: z.string() }),
  number: z.number().int(),
  policy: Policy,
  boundaries: z.array(Boundary),
  components: z.array(z.strictObject({ title: z.string(), weight: z.number().nullable() })),
  results: z.array(IssueResult),
})
export type IssueContent = z.infer<typeof IssueContent>

export const Signature = z.strictObject({ by: z.string(), role: z.string(), at: z.iso.datetime(), statement: z.string() })

export const IssueHead = z.strictObject({
  number: z.number().int(),
  /** SHA-256 of the content as canonical JSON, in hex. */
  hash: z.string(),
  at: z.iso.datetime(),
  signatures: z.array(Signature),
  reopened: z.strictObject({ by: z.string(), at: z.iso.datetime(), reason: z.string() }).nullable(),
})
export type IssueHead = z.infer<typeof IssueHead>
