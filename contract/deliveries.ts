import { z } from 'zod'
import { Id, plainName } from './course'

export const DeliveryKind = z.enum(['text', 'pdf', 'other'])

/** Something that came through the submission box. */
export const DeliveryRow = z.strictObject({
  id: Id,
  fileName: z.string(),
  kind: DeliveryKind,
  /** What the box says it is. */
  candidate: z.string(),
  assessment: z.string(),
  cameAt: z.string(),
  state: z.enum(['placed', 'waiting', 'set aside']),
  why: z.string().nullable(),
  /** Where it was placed. */
  studentId: Id.nullable(),
  assessmentId: Id.nullable(),
  attempt: z.number().int().nullable(),
  daysLate: z.number().int(),
  sortedBy: z.string().nullable(),
})
export type DeliveryRow = z.infer<typeof DeliveryRow>

export const STAND_INS = ['submission box', 'post', 'records office'] as const
export const StandIn = z.enum(STAND_INS)
export type StandIn = z.infer<typeof StandIn>

export const Deliveries = z.strictObject({
  /** Those that wait first, then the latest. */
  list: z.array(DeliveryRow),
  counts: z.strictObject({ placed: z.number().int(), waiting: z.number().int(), setAside: z.number().int() }),
  /** How many lie in the box and were not collected yet; null where the box cannot be reached. */
  inBox: z.number().int().nullable(),
})
export type Deliveries = z.infer<typeof Deliveries>

export const Collected = z.strictObject({
  placed: z.number().int(),
  waiting: z.number().int(),
  setAside: z.number().int(),
  /** Rows of the box’s list that could not be taken over, in words. */
  faults: z.array(z.string()),
})
export type Collected = z.infer<typeof Collected>

/** The largest file that is handed in here. */
export const MOST_HANDED_IN = 10_000_000
export const HandedIn = z.strictObject({
  fileName: plainName(z.string().trim().min(1, 'The file has no name.').max(200, 'Give the file a shorter name.')),
  /** The file’s bytes in base64. */
  file: z.string().max(Math.ceil(MOST_HANDED_IN / 3) * 4, 'The file is over 10 MB: save it smaller, as a PDF without large pictures.'),
})
/** The receipt. */
export const Receipt = z.strictObject({
  fileName: z.string(),
  at: z.iso.datetime(),
  daysLate: z.number().int(),
  attempt: z.number().int(),
  /** SHA-256 of the file, in hex. */
  hash: z.string(),
})
export type Receipt = z.infer<typeof Receipt>

export const SortDelivery = z.discriminatedUnion('to', [
  z.strictObject({ to: z.literal('script'), studentId: Id, assessmentId: Id }),
  z.strictObject({ to: z.literal('set aside'), why: z.string().trim().min(1, 'Say why it is set aside.').max(500) }),
  z.strictObject({ to: z.literal('waiting') }),
])
export type SortDelivery = z.infer<typeof SortDelivery>

export const Letter = z.strictObject({
  id: Id,
  by: z.string(),
  to: z.string(),
  subject: z.string(),
  body: z.string(),
  at: z.string(),
})
export type Letter = z.infer<typeof Letter>
