import { z } from 'zod'
import { Assessment, Boundary, Component, Condition, Id, Policy, Status, DaysLate } from './course'
import { Judged, StandardInUse } from './exemplars'
import { OutcomeBody } from './library'
import { OwnAsking } from './questions'

/** What one reader remarked for the student; of nobody by name. */
const Remarks = z.strictObject({
  comment: z.string(),
  /** By criterion, or by what is noted on beside a judgement; points where that reading alone gave the mark. */
  parts: z.array(
    z.strictObject({
      title: z.string(),
      words: z.string(),
      points: z.strictObject({ given: z.number(), of: z.number(), takenOff: z.boolean() }).nullable(),
    }),
  ),
})
export type Remarks = z.infer<typeof Remarks>

/** A piece of work as it came in. */
const Attempt = z.strictObject({
  fileName: z.string(),
  at: z.iso.datetime(),
  daysLate: z.number().int(),
  /** SHA-256 of the file, in hex: the receipt. */
  hash: z.string(),
})
const HandIn = z.strictObject({
  /** Whether work may be handed in now; else why not. */
  open: z.boolean(),
  why: z.string().nullable(),
  /** The first first. */
  attempts: z.array(Attempt),
})

/** A course as the grade engine takes it, with the one student’s own released marks in it. */
export const OwnCourse = z.strictObject({
  policy: Policy,
  components: z.array(Component.omit({ version: true }).extend({ weight: z.number() })),
  assessments: z.array(
    Assessment.pick({ id: true, componentId: true, title: true, outOf: true, counts: true, bonus: true, droppable: true }).extend({
      worth: z.number(),
    }),
  ),
  marks: z.array(z.strictObject({ assessmentId: Id, mark: z.number().nullable(), status: Status, daysLate: DaysLate })),
  boundaries: z.array(Boundary),
  conditions: z.array(Condition),
})
export type OwnCourse = z.infer<typeof OwnCourse>

/** A confirmed result and how it came about, in words. */
const OwnResult = z.strictObject({
  issue: z.number().int(),
  percent: z.number().nullable(),
  grade: z.string().nullable(),
  pending: z.number().int(),
  components: z.array(z.strictObject({ title: z.string(), percent: z.number().nullable(), words: z.array(z.string()) })),
  /** From the course percent to the grade. */
  steps: z.array(z.string()),
})
const EarlierResult = z.strictObject({
  issue: z.number().int(),
  percent: z.number().nullable(),
  grade: z.string().nullable(),
  /** What the next one changed, in words. */
  changed: z.array(z.string()),
})

/** What a student sees of their own work: a mark only once it is released. */
export const OwnWork = z.strictObject({
  name: z.string(),
  candidate: z.string(),
  section: z.string(),
  /** What one is called where the class looks on; null where nothing was drawn or chosen. */
  codeName: z.string().nullable(),
  work: z.array(
    z.strictObject({
      id: Id,
      assessment: z.string(),
      due: z.iso.date().nullable(),
      released: z.boolean(),
      mark: z.number().nullable(),
      outOf: z.number().nullable(),
      status: z.string().nullable(),
      /** What was remarked, once the mark is released and where students see that. */
      remarks: z.array(Remarks),
      /** The levels that stand, by what they were judged, where students see remarks; agreed on by its readers, or of its one reading. */
      levels: z.strictObject({ standard: StandardInUse, judged: Judged, agreed: z.boolean() }).nullable(),
      /** What it is marked by, where students see that. */
      standard: StandardInUse.nullable(),
      /** Exemplars shown to students: the mark, or what each criterion reached and why. */
      exemplars: z.array(
        z.strictObject({
          label: z.string(),
          text: z.string(),
          mark: z.number(),
          outOf: z.number(),
          why: z.strictObject({ picks: z.record(z.string(), z.number()), judgement: z.string().nullable(), note: z.string() }).nullable(),
        }),
      ),
      /** What was asked about the mark; null where nothing can be asked and nothing was. */
      asking: OwnAsking.nullable(),
      /** What was handed in; null where the work does not come in that way and none has come. */
      handIn: HandIn.nullable(),
    }),
  ),
  /** By which one may reckon where one stands, of released marks alone; null where students are not shown that, or have their result. */
  course: OwnCourse.nullable(),
  /** Where one stands on outcomes that students are shown, by what is released; null while a reopened course is looked at again. */
  standings: z
    .array(
      z.strictObject({
        title: z.string(),
        statement: z.string(),
        levels: OutcomeBody.shape.levels,
        reached: z.number().int(),
        level: z.number().int().nullable(),
        isReached: z.boolean(),
        results: z.number().int(),
        history: z.array(z.number().int()),
      }),
    )
    .nullable(),
  /** The course result, once it is confirmed and released to their section. */
  result: OwnResult.nullable(),
  /** Results of earlier issues that were out before, the latest first. */
  earlier: z.array(EarlierResult),
})
export type OwnWork = z.infer<typeof OwnWork>
