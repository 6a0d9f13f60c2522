import { z } from 'zod'
import type { Judged as JudgedOf } from '#core/marking'
import type { Picks as PicksOf } from '#core/scales'
import { Assessment, Id, Mark, plainName } from './course'
import { RubricBody, ScaleBody, SchemeBody } from './library'
import { says } from './says'

/** Criterion id → points given. */
export const Picks = says<PicksOf>()(z.record(z.string().max(80), z.number().min(0).max(10_000)))
const LongText = z.string().max(20_000, 'At most 20,000 characters.')

/** The standard in use, as one marks by it. */
export const StandardInUse = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('rubric'), id: Id, title: z.string(), version: z.number().int(), body: RubricBody }),
  z.strictObject({ kind: z.literal('scheme'), id: Id, title: z.string(), version: z.number().int(), body: SchemeBody }),
  z.strictObject({ kind: z.literal('scale'), id: Id, title: z.string(), version: z.number().int(), body: ScaleBody }),
])
export type StandardInUse = z.infer<typeof StandardInUse>

export const Judged = says<JudgedOf>()(z.strictObject({ picks: Picks, judgement: z.string().max(120).nullable(), mark: Mark.nullable() }))
export type Judged = JudgedOf
const JudgedMark = Judged.extend({ mark: z.number() })

export const Shown = z.enum(['nothing', 'mark', 'levels'])

export const ExemplarBody = z.strictObject({
  label: plainName(z.string().trim().min(1, 'Give it a name.').max(120, 'At most 120 characters.')),
  text: LongText.refine((t) => t.trim() !== '', 'Put the script’s text here.'),
  agreed: Judged,
  /** Why it is worth what it is worth. */
  note: z.string().trim().min(1, 'Say why: markers and students learn from it.').max(4000, 'At most 4000 characters.'),
  shown: Shown,
})
export type ExemplarBody = z.infer<typeof ExemplarBody>

export const Exemplar = z.strictObject({
  id: Id,
  label: z.string(),
  text: z.string(),
  shown: Shown,
  version: z.number().int(),
  /** What was agreed and why; not sent to a marker who has not read it yet. */
  agreed: JudgedMark.extend({ note: z.string() }).nullable(),
  /** One's own reading of it. */
  own: JudgedMark.nullable(),
  /** How many have read it. */
  readBy: z.number().int(),
})
export type Exemplar = z.infer<typeof Exemplar>

export const Gate = z.enum(['open', 'held'])

/** The exemplars of an assessment, as far as one may see them. */
export const Exemplars = z.strictObject({
  assessment: Assessment.pick({ id: true, title: true, outOf: true, marking: true, tolerance: true, use: true }),
  standard: StandardInUse.nullable(),
  exemplars: z.array(Exemplar),
  /** Whether one may begin to mark. */
  mine: Gate,
  /** Everybody's readings and who may begin; sent to those who oversee the course only. */
  markers: z
    .array(
      z.strictObject({
        id: Id,
        name: z.string(),
        gate: Gate,
        /** What the lead set; null where it follows from what was read. */
        set: Gate.nullable(),
        readings: z.array(JudgedMark.extend({ exemplarId: Id })),
      }),
    )
    .nullable(),
})
export type Exemplars = z.infer<typeof Exemplars>
