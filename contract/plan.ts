import { z } from 'zod'
import type { Release as ReleaseOf } from '#core/roll'
import {
  Assessment,
  Boundary,
  Component,
  CourseHead,
  CourseNamed,
  Decimal,
  Id,
  KeptCondition,
  inOrder,
  Marking,
  Policy,
  Title,
  Weight,
} from './course'
import { says } from './says'
import { Weekdays } from './roll'

export const Release = says<ReleaseOf>()(
  z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('at once') }),
    z.strictObject({ kind: z.literal('on'), day: z.iso.date() }),
    /** Days after the due day; before it where negative. */
    z.strictObject({ kind: z.literal('days'), days: z.number().int().min(-200).max(200) }),
    z.strictObject({ kind: z.literal('confirmed') }),
    z.strictObject({ kind: z.literal('by hand'), released: z.boolean() }),
  ]),
)
export type Release = ReleaseOf

const at = z.number().int().min(0)
/** A placement by places in the lists beside it: assessment, section, due day, release. */
export const PlacementRow = z.tuple([at, at, z.iso.date().nullable(), at])

export const AcceptedFinding = z.strictObject({
  key: z.string().min(1).max(400),
  reason: z.string(),
  by: z.string(),
  at: z.iso.datetime(),
})

/** The plan and the placements as decided so far, light enough for a department of any size. */
export const Plan = z.strictObject({
  head: CourseHead,
  version: z.number().int(),
  hasMarks: z.boolean(),
  policy: Policy,
  boundaries: z.array(Boundary),
  conditions: z.array(KeptCondition),
  sections: z.array(
    z.strictObject({
      id: Id,
      code: z.string(),
      name: z.string(),
      teacher: z.string().nullable(),
      weekdays: Weekdays,
      firstDay: z.iso.date().nullable(),
      students: z.number().int(),
    }),
  ),
  components: z.array(Component),
  assessments: z.array(Assessment),
  /** Taken out of the plan; `decisionId` is the decision that did it, null where there were no marks yet. */
  away: z.array(z.strictObject({ id: Id, title: z.string(), decisionId: Id.nullable(), version: z.number().int() })),
  releases: z.array(Release),
  placements: z.array(PlacementRow),
  /** Assessment id → students left out of it. */
  leftOut: z.record(Id, z.array(Id)),
  accepted: z.array(AcceptedFinding),
})
export type Plan = z.infer<typeof Plan>

/** A placement as it should be; `placed` false takes it off. */
export const PlacementWrite = z.strictObject({
  assessmentId: Id,
  sectionId: Id,
  placed: z.boolean(),
  due: z.iso.date().nullable(),
  release: Release,
})
export type PlacementWrite = z.infer<typeof PlacementWrite>

export const NewComponent = z.strictObject({
  title: Title,
  weight: Weight.nullable(),
  combine: Component.shape.combine,
  dropLowest: z.number().int().min(0).max(50),
  bonus: z.boolean(),
})

export const NewAssessment = z.strictObject({
  componentId: Id,
  title: Title,
  marking: Marking,
  outOf: Decimal.positive('Must be above 0.').max(10_000),
  /** Null: the same as it is marked out of. */
  worth: Weight.nullable(),
  placed: z.boolean(),
})

/** A whole plan at once: components that are not there yet, and assessments in them by the component’s title. */
export const NewPlan = z.strictObject({
  components: z.array(z.strictObject({ title: Title, weight: Weight.nullable() })).max(300),
  assessments: z
    .array(
      NewAssessment.pick({ title: true, outOf: true, worth: true }).extend({
        component: Title,
        /** Section and day, for the sections it is set for with a day; it is set for all. */
        due: z.array(z.tuple([Id, z.iso.date()])).max(2000),
      }),
    )
    .min(1)
    .max(300),
})
export type NewPlan = z.infer<typeof NewPlan>

export const PlanAdded = z.strictObject({ componentIds: z.array(Id).max(300), assessmentIds: z.array(Id).max(300) })
export type PlanAdded = z.infer<typeof PlanAdded>

/** A data package of an assessment. */
export const AssessmentUpload = z.strictObject({
  file: z.base64('The file did not arrive whole.').max(16_000_000, 'The package is over 12 MB.'),
})
/** What assessment a data package holds, as it would be here. */
export const TriedAssessment = z.strictObject({
  title: z.string(),
  /** What the component was called that it was in. */
  component: z.string(),
  marking: Marking,
  outOf: z.number(),
  /** What it is marked by, and whether the library has the same already. */
  standard: z.strictObject({ title: z.string(), here: z.boolean() }).nullable(),
  /** Of those in the package, which are not brought in. */
  marks: z.number().int(),
  readings: z.number().int(),
})
export type TriedAssessment = z.infer<typeof TriedAssessment>

export const Taken = z.strictObject({
  standard: z.boolean(),
  passMark: z.boolean(),
  moderation: z.boolean(),
  notes: z.boolean(),
  placements: z.boolean(),
})
export type Taken = z.infer<typeof Taken>

export const NewCourse = inOrder(
  CourseNamed.extend({
    /** The course to start from; null to begin with nothing. */
    from: Id.nullable(),
    /** Who leads it; null is whoever starts it. For who administers. */
    leadId: Id.nullable().default(null),
    take: z.strictObject({
      plan: z.boolean(),
      placements: z.boolean(),
      standards: z.boolean(),
      boundaries: z.boolean(),
      people: z.boolean(),
    }),
  }),
)
export type NewCourse = z.infer<typeof NewCourse>
