import { MOST_REMARK } from '#core/marking'
import { z } from 'zod'
import { WHO_BY, type MarksTable } from '#core/exchange/marks-who'
import { Adjustment, AgreeRule, StandingRule } from './changes'
import {
  Assessment,
  Boundary,
  Component,
  CourseHead,
  DaysLate,
  Id,
  KeptCondition,
  Mark,
  Placement,
  Policy,
  Section,
  Status,
  Student,
} from './course'
import { SheetsOfFile } from './file-sheets'
import { ScaleBody } from './library'
import { Stay } from './roll'
import { says } from './says'

const index = z.number().int().min(0)

/** Scripts as columns; students and assessments by their place in the lists beside it. */
export const ScriptColumns = z.strictObject({
  id: z.array(Id),
  student: z.array(index),
  assessment: z.array(index),
  /** Place in STATUSES. */
  status: z.array(index),
  daysLate: z.array(DaysLate),
  entered: z.array(z.number().nullable()),
  version: z.array(z.number().int()),
})

/** Handed-in readings as columns, in the order they were handed in. */
export const ReadingColumns = z.strictObject({ script: z.array(index), marker: z.array(index), mark: z.array(z.number()) })

/** Everything that standing marks and grades follow from, as decided so far: one fetch, then all is computed beside the person. */
export const CourseTable = z.strictObject({
  head: CourseHead,
  /** Raised by every write to the course. */
  version: z.number().int(),
  hasMarks: z.boolean(),
  policy: Policy,
  boundaries: z.array(Boundary),
  conditions: z.array(KeptCondition),
  sections: z.array(Section),
  students: z.array(Student),
  markers: z.array(z.strictObject({ id: Id, name: z.string() })),
  components: z.array(Component),
  assessments: z.array(Assessment),
  placements: z.array(Placement),
  /** Times in sections of the students who have been in more than one. */
  stays: z.record(Id, z.array(Stay)),
  /** Assessment id → students left out of it. */
  leftOut: z.record(Id, z.array(Id)),
  scripts: ScriptColumns,
  readings: ReadingColumns,
  agreed: z.record(Id, z.number()),
  /** Of those whose readings alone decide: scripts by the word for their rule. */
  agreedBy: z.record(z.string(), z.array(Id)),
  /** Scripts that were settled and opened again since, by a reading that came or by a decision. */
  reopened: z.array(Id),
  /** Assessment id → how it settles what lies within its tolerance. */
  agreeBy: z.record(Id, StandingRule),
  adjustments: z.array(Adjustment),
})
export type CourseTable = z.infer<typeof CourseTable>

/** One cell of the mark sheet. */
export const Cell = z.strictObject({
  studentId: Id,
  assessmentId: Id,
  status: Status,
  daysLate: DaysLate,
  /** The mark typed or brought in; null is a blank, which is pending. */
  mark: z.number().nullable(),
  /** Mark that came from readings and may be seen; such a cell is not typed in. */
  fromReadings: z.strictObject({ mark: z.number().nullable(), readings: z.number().int() }).nullable(),
  /** 0 where nothing was recorded yet. */
  version: z.number().int(),
})
export type Cell = z.infer<typeof Cell>

export const Sheet = z.strictObject({
  /** Of the course, as it was when the sheet was read. */
  version: z.number().int(),
  sections: z.array(Section),
  students: z.array(Student),
  assessments: z.array(
    Assessment.pick({ id: true, title: true, outOf: true, marking: true, passMark: true, componentId: true, bonus: true }).extend({
      /** It is read blind: whether and how is not told in this person's sheet. */
      blind: z.boolean(),
      /** The outcome by which it is marked; null where it is marked in another way. */
      byStanding: z.string().nullable(),
      /** Labels of the scale that it is marked on; null where there is none. */
      labels: ScaleBody.shape.labels.nullable(),
    }),
  ),
  /** First and last teaching day, for days that are typed without a year. */
  term: CourseHead.pick({ firstDay: true, lastDay: true }),
  placements: z.array(Placement),
  /** Cells whose readings are further apart than the assessment tolerates; not told to markers. */
  overTolerance: z.array(z.strictObject({ studentId: Id, assessmentId: Id })),
  /** Students whose assessments differ from their section’s: who moved or is left out → what applies to them, with its due day. */
  exceptions: z.record(Id, z.record(Id, z.iso.date().nullable())),
  cells: z.array(Cell),
  /** Whether this person may type into it now. */
  writable: z.boolean(),
})
export type Sheet = z.infer<typeof Sheet>

/** What was written to the sheet since a version; null where more than cells has changed, and all is to be fetched anew. */
export const SheetSince = z.strictObject({
  version: z.number().int(),
  cells: z.array(Cell.extend({ overTolerance: z.boolean() })).nullable(),
})
export type SheetSince = z.infer<typeof SheetSince>

export const CellWrite = z.strictObject({
  studentId: Id,
  assessmentId: Id,
  version: z.number().int().min(0),
  mark: Mark.nullable(),
  status: Status,
  daysLate: DaysLate,
  /** What the student is to read beside the mark; left out where it stays as it is. */
  remark: z.string().max(MOST_REMARK, `A remark has at most ${MOST_REMARK} characters.`).optional(),
})
export type CellWrite = z.infer<typeof CellWrite>

export const CellRefusal = z.strictObject({
  studentId: Id,
  assessmentId: Id,
  kind: z.enum(['range', 'readings', 'not placed', 'unknown', 'stale', 'not yours', 'late', 'held', 'set by lead']),
  message: z.string(),
  current: Cell.nullable(),
})
export type CellRefusal = z.infer<typeof CellRefusal>

/** One row of a file that was tried. */
export const TriedRow = z.strictObject({
  line: z.number().int(),
  column: z.string().nullable(),
  outcome: z.enum(['added', 'changed', 'unchanged', 'refused']),
  /** Who and what, as far as the file says. */
  candidate: z.string(),
  assessment: z.string(),
  before: z.string(),
  after: z.string(),
  reason: z.string().nullable(),
})
export type TriedRow = z.infer<typeof TriedRow>

export const TriedImport = z.strictObject({
  counts: z.strictObject({ added: z.number(), changed: z.number(), unchanged: z.number(), refused: z.number() }),
  rows: z.array(TriedRow),
  /** Rows beyond those listed; the counts have them all. */
  unlisted: z.number().int(),
  /** What was understood that is written otherwise here, in words. */
  notes: z.array(z.string()),
  sheets: SheetsOfFile,
  /** How the table was read; null for a format that fixes its columns. */
  table: says<MarksTable>()(
    z.strictObject({
      header: z.array(z.string()),
      headingLine: z.number().int(),
      who: z.strictObject({ column: z.number().int(), by: z.enum(WHO_BY) }).nullable(),
      marks: z.array(z.strictObject({ column: z.number().int(), assessment: z.string() })),
    }),
  ).nullable(),
})
export type TriedImport = z.infer<typeof TriedImport>

const CellValue = CellWrite.pick({ mark: true, status: true, daysLate: true, remark: true })

/** What a file of marks changed, cell by cell; null where it is more than anybody undoes. */
export const BroughtIn = TriedImport.extend({
  changed: z.array(CellWrite.omit({ version: true }).extend({ was: CellValue })).nullable(),
})
export type BroughtIn = z.infer<typeof BroughtIn>

/** A state that a cell of the sheet was in, and who put it there. */
export const CellState = z.strictObject({
  at: z.string(),
  by: z.string(),
  mark: z.number().nullable(),
  status: Status,
  daysLate: DaysLate,
  /** Null where it was left as it was. */
  remark: z.string().nullable(),
})
export type CellState = z.infer<typeof CellState>

/** A state that a reading was in and that was replaced later. */
export const EarlierReading = z.strictObject({
  replacedAt: z.string(),
  mark: z.number().nullable(),
  attempt: z.number().int(),
  state: z.enum(['draft', 'handed in']),
  /** Made after its marker had seen how others read the script. */
  afterSeeing: z.boolean(),
})
export type EarlierReading = z.infer<typeof EarlierReading>

/** A hand-in of a script. */
export const Attempt = z.strictObject({
  number: z.number().int(),
  cameAt: z.string().nullable(),
  kind: z.enum(['text', 'pdf']),
  text: z.string().nullable(),
})

/** A word that was said on a script: a mark agreed for its readings, or that it is open again. */
export const ScriptWord = z.strictObject({
  /** Null where it was opened again. */
  mark: z.number().nullable(),
  rule: AgreeRule.nullable(),
  by: z.string(),
  at: z.string(),
  /** Why the decision was made. */
  reason: z.string(),
  /** The readings that it was about, as they were then. */
  readings: z.array(z.strictObject({ marker: z.string(), mark: z.number() })),
  /** Nobody has said anything since. */
  inForce: z.boolean(),
  /** Its readings are still those. */
  holds: z.boolean(),
})
export type ScriptWord = z.infer<typeof ScriptWord>

export const ScriptDetail = z.strictObject({
  id: Id,
  student: Student,
  assessmentId: Id,
  status: Status,
  daysLate: DaysLate,
  entered: z.number().nullable(),
  /** With a mark that was typed. */
  remark: z.string(),
  cameAt: z.string().nullable(),
  readings: z.array(
    z.strictObject({
      markerId: Id,
      marker: z.string(),
      mark: z.number(),
      picks: z.record(z.string(), z.number()),
      /** The mark as the marker made it, where the reading was carried over to another version of the rubric. */
      madeMark: z.number().nullable(),
      judgement: z.string().nullable(),
      comment: z.string(),
      criterionComments: z.record(z.string(), z.string()),
      /** For markers and those who oversee, never for students. */
      notes: z.string(),
      handedInAt: z.string(),
      /** It was changed after its marker had seen how others read the script. */
      afterSeeing: z.boolean(),
      earlier: z.array(EarlierReading),
    }),
  ),
  history: z.array(CellState),
  /** What was agreed on it, the latest first; withdrawn decisions are left out. */
  words: z.array(ScriptWord),
  /** Every hand-in, the latest last; none where the work is on paper or elsewhere. */
  attempts: z.array(Attempt),
})
export type ScriptDetail = z.infer<typeof ScriptDetail>
