import { z } from 'zod'
import type { FileClass } from '#core/exchange/roll-file'
import {
  ENCODINGS,
  ROLL_FIELDS,
  type Encoding as EncodingOf,
  type RollSection as RollSectionOf,
  type RollStudent as RollStudentOf,
  type Stay as StayOf,
} from '#core/roll'
import { holds, says } from './says'
import { Id, plainName } from './course'
import { SheetNames, SheetsOfFile } from './file-sheets'

export const Weekdays = z.array(z.number().int().min(1).max(7)).max(7)
export const SectionCode = plainName(z.string().trim().min(1, 'Give it a code.').max(40, 'At most 40 characters.'))
export const SectionName = plainName(z.string().trim().min(1, 'Give it a name.').max(120, 'At most 120 characters.'))
export const PersonName = plainName(z.string().trim().min(1, 'Give a name.').max(200, 'At most 200 characters.'))
export const Candidate = plainName(z.string().trim().min(1, 'Give a candidate number.').max(40, 'At most 40 characters.'))
export const ExternalId = plainName(z.string().trim().min(1).max(80))

export const RollSection = holds<RollSectionOf>()(
  z.strictObject({
    id: Id,
    code: z.string(),
    name: z.string(),
    teacherId: Id.nullable(),
    teacher: z.string().nullable(),
    /** 1 for Monday to 7 for Sunday. */
    weekdays: Weekdays,
    firstDay: z.iso.date().nullable(),
    version: z.number().int(),
  }),
)
export type RollSection = z.infer<typeof RollSection>

export const Stay = says<StayOf>()(z.strictObject({ sectionId: Id, from: z.iso.date(), to: z.iso.date().nullable() }))

export const RollStudent = holds<RollStudentOf>()(
  z.strictObject({
    id: Id,
    name: z.string(),
    candidate: z.string(),
    externalId: z.string().nullable(),
    /** By which they come in to see their own work; their external id where there is none. */
    signIn: z.string().nullable(),
    /** Times in sections, in order; who has left has none that lasts. */
    stays: z.array(Stay),
    version: z.number().int(),
  }),
)
export type RollStudent = z.infer<typeof RollStudent>

export const Roll = z.strictObject({
  version: z.number().int(),
  sections: z.array(RollSection),
  students: z.array(RollStudent),
  /** Who may teach a section. */
  people: z.array(z.strictObject({ id: Id, name: z.string() })),
  /** Whether markers are sent names; where not, they get candidate numbers in their place. */
  namesToMarkers: z.boolean(),
})
export type Roll = z.infer<typeof Roll>

/** The roll as it is sent: students by column and places by number, a third of the size at 12,000 students. */
export const RollInColumns = Roll.omit({ students: true }).extend({
  students: z.strictObject({
    id: z.array(Id),
    name: z.array(z.string()),
    candidate: z.array(z.string()),
    externalId: z.array(z.string().nullable()),
    signIn: z.array(z.string().nullable()),
    version: z.array(z.number().int()),
  }),
  /** Times in sections, in order: place of the student, place of the section, from, to. */
  stays: z.array(z.tuple([z.number().int(), z.number().int(), z.iso.date(), z.iso.date().nullable()])),
})
export type RollInColumns = z.infer<typeof RollInColumns>

/** The roll as it is read, one object a student. */
export function unpackRoll({ students: columns, stays, ...rest }: RollInColumns): Roll {
  const students = columns.id.map((id, i): RollStudent => ({
    id,
    name: columns.name[i]!,
    candidate: columns.candidate[i]!,
    externalId: columns.externalId[i]!,
    signIn: columns.signIn[i]!,
    version: columns.version[i]!,
    stays: [],
  }))
  for (const [student, section, from, to] of stays) students[student]!.stays.push({ sectionId: rest.sections[section]!.id, from, to })
  return { ...rest, students }
}

const RollField = z.enum(ROLL_FIELDS)
const Encoding = z.enum(Object.keys(ENCODINGS) as [EncodingOf, ...EncodingOf[]])

const MAX_FILE = 12_000_000
export const RollUpload = z.strictObject({
  /** The file's bytes in base64. */
  file: z.string().max(Math.ceil(MAX_FILE / 3) * 4, 'The file is over 12 MB. Bring it in in parts.'),
  /** Which column holds what, by place; left out where the headings say it. */
  columns: z.partialRecord(RollField, z.number().int().min(0).max(500)).optional(),
  /** The line that the heading stands in; left out where it can be told. */
  headingLine: z.number().int().min(1).max(60_000).optional(),
  /** Sheets of a workbook that are meant, by name; left out where it can be told. */
  sheets: SheetNames.optional(),
  /** By which its letters are read; left out where it can be told. */
  encoding: Encoding.optional(),
  /** Of a roster, the classes that are meant, by their ids; left out where the file and the course tell. */
  classes: z.array(z.string().min(1).max(255)).max(2000, 'At most 2000 classes.').optional(),
  /** The day from which moves and new places count. */
  from: z.iso.date(),
})
export type RollUpload = z.infer<typeof RollUpload>

export const TriedRollRow = z.strictObject({
  line: z.number().int(),
  column: z.string().nullable(),
  outcome: z.enum(['added', 'changed', 'moved', 'back', 'unchanged', 'refused']),
  candidate: z.string(),
  name: z.string(),
  before: z.string(),
  after: z.string(),
  reason: z.string().nullable(),
})

export const TriedRoll = z.strictObject({
  /** Headings of the file's columns; empty for a format that fixes them. */
  header: z.array(z.string()),
  headingLine: z.number().int(),
  /** By which the letters of the file were read, where it is no Unicode. */
  encoding: Encoding.nullable(),
  sheets: SheetsOfFile,
  columns: z.partialRecord(RollField, z.number().int()),
  counts: z.strictObject({
    added: z.number().int(),
    changed: z.number().int(),
    moved: z.number().int(),
    back: z.number().int(),
    unchanged: z.number().int(),
    refused: z.number().int(),
  }),
  rows: z.array(TriedRollRow),
  unlisted: z.number().int(),
  /** Sections that would be made or changed. */
  sections: z.array(z.strictObject({ code: z.string(), name: z.string(), isNew: z.boolean() })),
  /** Students in a section now whom the file does not have: asked about, never dropped. */
  missing: z.array(z.strictObject({ id: Id, name: z.string(), candidate: z.string(), section: z.string() })),
  notes: z.array(z.string()),
  /** What a roster holds beside; null for any other file. */
  roster: z
    .strictObject({
      /** It says what changed, and not all. */
      delta: z.boolean(),
      classes: z.array(
        holds<FileClass>()(
          z.strictObject({
            sourceId: z.string(),
            code: z.string(),
            title: z.string(),
            course: z.string(),
            students: z.number().int(),
            chosen: z.boolean(),
          }),
        ),
      ),
      /** Enrolments in classes that are not read. */
      left: z.number().int(),
      /** Classes, teachers and names that are known by their ids and parts from then on, and were not. */
      learnt: z.number().int(),
    })
    .nullable(),
})
export type TriedRoll = z.infer<typeof TriedRoll>

/** That a roll was brought in from a file, as the record has it. */
export const RollFileKept = z.strictObject({
  id: Id,
  name: z.string(),
  /** What it did, in words. */
  summary: z.string(),
  by: z.string(),
  at: z.iso.datetime(),
  undone: z.strictObject({ by: z.string(), at: z.iso.datetime() }).nullable(),
})
export type RollFileKept = z.infer<typeof RollFileKept>

/** A line of an answer that comes while the work is done. */
export const RollProgress = z.union([
  z.strictObject({ doing: z.string() }),
  /** With the id under which it can be undone, once it is brought in. */
  z.strictObject({ tried: TriedRoll, fileId: Id.nullable() }),
  z.strictObject({ problem: z.string() }),
])
export type RollProgress = z.infer<typeof RollProgress>
