import { z } from 'zod'
import { WHO_BY } from '#core/exchange/marks-who'
import {
  AgreeRule,
  Boundary,
  KeptCondition,
  RefusedResult,
  SentResult,
  Signers,
  Change,
  Effect,
  IssueContent,
  OutcomeBody,
  Picks,
  Policy,
  Release,
  RubricBody,
  ScaleBody,
  SchemeBody,
  Sees,
  ShareRule,
  StandardUse,
  Weekdays,
} from '#contract'

const Place = z.number().int().min(0)
const words = z.record(z.string(), z.string())
const changes = z.array(Change)
/** What a standard of each kind is made of. */
const BODIES: Record<string, z.ZodType> = { rubric: RubricBody, scheme: SchemeBody, scale: ScaleBody, outcome: OutcomeBody }

type Row = Record<string, unknown>
/** Readings that something was said about: who, which version, which mark. */
const over = z.array(z.tuple([z.string(), z.number().int(), z.number()]))

/** What the JSON inside a table's columns has to be; one that it is not would only be met when somebody opens it. */
export const JSON_COLUMNS: Record<string, Record<string, z.ZodType | ((row: Row) => z.ZodType)>> = {
  course: { policy: Policy, boundaries: z.array(Boundary), conditions: z.array(KeptCondition), signers: Signers },
  standard: { body: (row) => BODIES[String(row.kind)] ?? z.never() },
  section: { weekdays: Weekdays },
  assessment: { use: StandardUse.partial(), sees: Sees.partial() },
  placement: { release: Release },
  reading: { picks: Picks, criterion_comments: words },
  reading_state: { picks: Picks, criterion_comments: words },
  next_reading: { picks: Picks, criterion_comments: words },
  exemplar: { picks: Picks },
  exemplar_reading: { picks: Picks },
  carried_reading: { picks: Picks },
  decision: { changes, effect: Effect.nullable() },
  agreed_mark: { rule: AgreeRule.nullable(), over },
  between_two: { over },
  trial: { changes, since: z.array(z.number().int().min(0).nullable()) },
  idea: { changes },
  hand_over: { sent: z.array(SentResult), refused: z.array(RefusedResult) },
  issue: { content: IssueContent, signers: Signers, boundaries: z.array(Boundary), counts: z.record(z.string(), z.number().int()) },
  shared_out: { before: z.array(z.tuple([z.string(), z.string()])), rule: ShareRule.nullable() },
  roll_match: { header: z.array(z.string()), columns: z.record(z.string(), z.number().int()) },
  marks_match: {
    header: z.array(z.string()),
    match: z.strictObject({
      who: z.strictObject({ column: Place, by: z.enum(WHO_BY) }),
      marks: z.array(z.strictObject({ column: Place, assessment: z.string() })),
    }),
  },
  roll_file: { before: z.looseObject({ sections: z.array(z.unknown()), students: z.array(z.unknown()) }) },
}
