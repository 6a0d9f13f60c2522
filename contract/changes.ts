import { z } from 'zod'
import { STANDING_RULES, type AgreeRule as AgreeRuleOf } from '#core/agree'
import type { Adjustment as AdjustmentOf, AdjustmentMethod as MethodOf, Like as LikeOf, Reread } from '#core/rescale'
import type { Change as ChangeOf } from '#core/trial'
import { Boundary, Component, Condition, Decimal, Id, Mark, Policy, Weight } from './course'
import { Picks } from './exemplars'
import { says } from './says'

export const AgreeRule = says<AgreeRuleOf>()(
  z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('mean') }),
    z.strictObject({ kind: z.literal('median') }),
    z.strictObject({ kind: z.literal('highest') }),
    z.strictObject({ kind: z.literal('lowest') }),
    z.strictObject({ kind: z.literal('first') }),
    z.strictObject({ kind: z.literal('senior'), markerId: Id }),
    z.strictObject({ kind: z.literal('levelled'), leans: z.record(Id, z.number()), outOf: Decimal.positive() }),
    z.strictObject({ kind: z.literal('criteria'), picks: Picks, mark: z.number(), reason: z.string().trim().max(2000) }),
    z.strictObject({
      kind: z.literal('value'),
      mark: Mark,
      reason: z.string().trim().min(1, 'A mark of your own needs a reason.').max(2000),
    }),
  ]),
)

const Point = z.tuple([z.number(), z.number()])
const MeanSd = z.strictObject({ mean: z.number(), sd: z.number().min(0) })
/** Distinct marks with how often each stands. */
const Frequencies = z.array(z.tuple([z.number(), z.number().int().min(1)])).max(5000)
const Like = says<LikeOf>()(
  z.discriminatedUnion('group', [
    z.strictObject({ group: z.literal('typed') }),
    z.strictObject({ group: z.literal('others') }),
    z.strictObject({ group: z.literal('section'), sectionId: Id }),
    z.strictObject({ group: z.literal('year'), courseId: Id, term: z.string().max(200), asMarked: z.boolean().optional() }),
  ]),
)
const MOST_READINGS = 30_000
/** What readings come to by another count of their criteria. */
const recounted = {
  scriptIds: z.array(Id).max(MOST_READINGS),
  markerIds: z.array(Id.nullable()).max(MOST_READINGS),
  marks: z.array(z.number()).max(MOST_READINGS),
}
export const Recounted = says<Reread>()(z.strictObject(recounted))
const reread = { criterionIds: z.array(Id).min(1, 'Choose the criterion it is about.').max(50), ...recounted }
export const AdjustmentMethod = says<MethodOf>()(
  z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('add'), by: z.number() }),
    z.strictObject({ kind: z.literal('multiply'), by: z.number().min(0) }),
    z.strictObject({ kind: z.literal('topTo'), to: z.number(), highest: z.string().max(400).optional() }),
    z.strictObject({ kind: z.literal('line'), from: Point, to: Point }),
    z.strictObject({ kind: z.literal('curve'), points: z.array(Point).min(2).max(50) }),
    z.strictObject({ kind: z.literal('matchMeanSd'), from: MeanSd.optional(), to: MeanSd, like: Like }),
    z.strictObject({ kind: z.literal('matchDistribution'), from: Frequencies.optional(), to: Frequencies, like: Like }),
    z.strictObject({ kind: z.literal('anotherMaximum'), from: Decimal.positive(), to: Decimal.positive() }),
    z.strictObject({ kind: z.literal('markerEffect'), markerId: Id, effect: z.number(), factor: z.number().min(0).max(1) }),
    z.strictObject({ kind: z.literal('without'), ...reread }),
    z.strictObject({ kind: z.literal('grant'), ...reread }),
  ]),
)

export const Adjustment = says<AdjustmentOf>()(
  z.strictObject({
    id: Id,
    assessmentId: Id.nullable(),
    outOf: Decimal.positive(),
    sectionIds: z.array(Id).min(1, 'Choose a section.').nullable(),
    method: AdjustmentMethod,
    on: z.boolean(),
    neverLower: z.boolean(),
    above: z.enum(['keep within', 'allow']),
    step: Decimal.positive().nullable(),
  }),
)

export const StandingRule = z.enum(STANDING_RULES)

export const Change = says<ChangeOf>()(
  z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('settle'), scriptId: Id, rule: AgreeRule, step: z.number().positive().nullable(), mark: z.number() }),
    z.strictObject({ kind: z.literal('reopen'), scriptId: Id }),
    z.strictObject({ kind: z.literal('agree by'), assessmentId: Id, rule: StandingRule.nullable() }),
    z.strictObject({ kind: z.literal('adjust'), adjustment: Adjustment }),
    z.strictObject({ kind: z.literal('switch'), adjustmentId: Id, on: z.boolean() }),
    z.strictObject({ kind: z.literal('order'), assessmentId: Id.nullable(), adjustmentIds: z.array(Id).max(200) }),
    z.strictObject({
      kind: z.literal('bound'),
      boundaries: z.array(Boundary).min(1).max(60),
      over: z.array(Boundary).max(60).optional(),
    }),
    z.strictObject({ kind: z.literal('condition'), conditionId: Id, condition: Condition.nullable() }),
    z.strictObject({ kind: z.literal('weigh'), componentId: Id, weight: Weight }),
    z.strictObject({
      kind: z.literal('shape'),
      componentId: Id,
      patch: Component.pick({ combine: true, dropLowest: true, bonus: true }).partial(),
    }),
    z.strictObject({ kind: z.literal('take away'), assessmentId: Id }),
    z.strictObject({ kind: z.literal('exclude'), assessmentId: Id, studentId: Id, out: z.boolean() }),
    z.strictObject({ kind: z.literal('policy'), policy: Policy, over: Policy.optional() }),
    z.strictObject({
      kind: z.literal('carry'),
      assessmentId: Id,
      standardId: Id,
      readings: z
        .array(
          z.strictObject({
            scriptId: Id,
            markerId: Id,
            version: z.number().int(),
            picks: z.record(z.string(), z.number()),
            judgement: z.string().max(120).optional(),
            mark: z.number(),
          }),
        )
        .max(20_000),
    }),
    z.strictObject({
      kind: z.literal('assess'),
      assessmentId: Id,
      patch: z.strictObject({
        worth: Weight.optional(),
        counts: z.boolean().optional(),
        bonus: z.boolean().optional(),
        droppable: z.boolean().optional(),
        componentId: Id.optional(),
      }),
    }),
  ]),
)
export type Change = ChangeOf

/** What a decision did, in figures. */
export const Effect = z.strictObject({
  percents: z.number().int(),
  grades: z.number().int(),
  up: z.number().int(),
  down: z.number().int(),
  /** Left out of what was decided before they were told apart. */
  gained: z.number().int().optional(),
  lost: z.number().int().optional(),
  renamed: z.number().int().optional(),
  reversed: z.number().int(),
})
export type Effect = z.infer<typeof Effect>

export const Decision = z.strictObject({
  id: Id,
  kind: z.enum(['reconcile', 'rescale', 'bound', 'weights', 'plan', 'several', 'confirm', 'reopen']),
  summary: z.string(),
  changes: z.array(Change),
  effect: Effect.nullable(),
  reason: z.string(),
  by: z.string(),
  at: z.iso.datetime(),
  withdrawn: z.strictObject({ by: z.string(), at: z.iso.datetime(), reason: z.string() }).nullable(),
})
export type Decision = z.infer<typeof Decision>
