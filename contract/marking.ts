import { z } from 'zod'
import { Assessment, DaysLate, Id, Status } from './course'
import { Attempt, EarlierReading } from './table'
import { Gate, Judged, Picks, StandardInUse } from './exemplars'

/** What a marker may see of others' readings of the same script, never before handing in their own. */
export const Sees = z.strictObject({
  marks: z.boolean(),
  comments: z.boolean(),
  notes: z.boolean(),
  /** Two whose readings lie over tolerance see both marks, and may agree on one between them; left out where they may not. */
  between: z.boolean().optional(),
})
export type Sees = z.infer<typeof Sees>
export const SEES_NOTHING: Sees = { marks: false, comments: false, notes: false }

const Remarks = z.string().max(10_000, 'At most 10,000 characters.')
export const ReadingState = z.enum(['untouched', 'draft', 'handed in'])

/** A marker's pile: what is theirs to read, by assessment. */
export const Pile = z.strictObject({
  assessmentId: Id,
  title: z.string(),
  marking: Assessment.shape.marking,
  total: z.number().int(),
  draft: z.number().int(),
  handedIn: z.number().int(),
  due: z.iso.date().nullable(),
  gate: Gate,
  unreadExemplars: z.number().int(),
})
export type Pile = z.infer<typeof Pile>

/** One script of a pile; without names where the assessment is marked blind. */
export const PileScript = z.strictObject({
  studentId: Id,
  label: z.string(),
  status: Status,
  state: ReadingState,
  mark: z.number().nullable(),
  /** The student handed in anew after one's reading was. */
  again: z.boolean(),
})
export type PileScript = z.infer<typeof PileScript>

/** What all that is written about one script may come to: every state of it is kept for good. */
const MOST_WORDS = 60_000
const MOST_COMMENTS = 120
export const ReadingBody = z.strictObject({
  judged: Judged,
  /** For the student, about the whole. */
  comment: Remarks,
  criterionComments: z
    .record(z.string().max(80), Remarks)
    .refine((all) => Object.keys(all).length <= MOST_COMMENTS, `At most ${MOST_COMMENTS} comments on one script.`)
    .refine(
      (all) => Object.values(all).reduce((n, words) => n + words.length, 0) <= MOST_WORDS,
      `At most ${MOST_WORDS} characters of comments on one script.`,
    ),
  /** For markers only. */
  notes: Remarks,
})
export type ReadingBody = z.infer<typeof ReadingBody>

export const OtherReading = z.strictObject({
  marker: z.string(),
  mark: z.number().nullable(),
  picks: Picks.nullable(),
  judgement: z.string().nullable(),
  comment: z.string().nullable(),
  criterionComments: z.record(z.string(), z.string()).nullable(),
  notes: z.string().nullable(),
})
export type OtherReading = z.infer<typeof OtherReading>

/** What two readers who disagree say to each other, as one of them sees it. */
/** What one of two readers proposed to the other, and what came of it. */
const Proposal = z.strictObject({
  mark: z.number(),
  reason: z.string(),
  at: z.iso.datetime(),
  /** Null while it waits for an answer, or where it was withdrawn before one. */
  agrees: z.boolean().nullable(),
  answer: z.string().nullable(),
  withdrawn: z.boolean(),
  /** Its readings are still those that it was about. */
  holds: z.boolean(),
})

export const BetweenTwo = z.strictObject({
  /** What the other one gave; null where there is nothing to agree on any more. */
  other: z.number().nullable(),
  /** All that was proposed, the first first. */
  said: z.array(Proposal.extend({ mine: z.boolean() })),
  /** The proposal that stands; null where none does. */
  proposal: z
    .strictObject({
      mine: z.boolean(),
      mark: z.number(),
      reason: z.string(),
      /** Null while it waits for an answer. */
      agrees: z.boolean().nullable(),
      answer: z.string().nullable(),
    })
    .nullable(),
})
export type BetweenTwo = z.infer<typeof BetweenTwo>

/** What two readers proposed on a script, as its lead sees it. */
export const AgreedBetween = Proposal.extend({ scriptId: Id, by: z.string(), answeredBy: z.string().nullable() })
export type AgreedBetween = z.infer<typeof AgreedBetween>

/** A script on the desk, with one's own reading of it. */
export const DeskScript = z.strictObject({
  studentId: Id,
  label: z.string(),
  status: Status,
  daysLate: DaysLate,
  cameAt: z.string().nullable(),
  /** Every hand-in, the latest last; none where the work is on paper or elsewhere. */
  attempts: z.array(Attempt),
  assessment: Assessment.pick({ id: true, title: true, outOf: true, marking: true, use: true, notes: true }),
  standard: StandardInUse.nullable(),
  /** One's own; version 0 where nothing was kept yet. */
  own: ReadingBody.extend({ state: ReadingState, version: z.number().int(), mark: z.number().nullable() }),
  /** One's reading of the attempt before, which stands until that of the latest is handed in; one's own then starts from it. */
  before: z.strictObject({ attempt: z.number().int(), mark: z.number().nullable() }).nullable(),
  /** With which marks one handed it in before. */
  earlier: z.array(EarlierReading),
  /** What one may see of others, once one's own is handed in. */
  others: z.array(OtherReading),
  /** One has seen how others read it: what is changed now is changed after that. */
  seen: z.boolean(),
  /** Where one may agree with the other reader; null where there is nothing to agree on, or it is not allowed. */
  between: BetweenTwo.nullable(),
  /** Why it cannot be taken back; null where it can. */
  fixed: z.string().nullable(),
})
export type DeskScript = z.infer<typeof DeskScript>

export const KeptComment = z.strictObject({ id: Id, words: z.string(), used: z.number().int() })
export type KeptComment = z.infer<typeof KeptComment>

/** How the reading of an assessment is to be shared out. */
export const ShareRule = z.strictObject({
  how: z.enum(['draw', 'by section', 'everyone', 'panels', 'sample']),
  readings: z.number().int().min(1).max(9),
  markers: z.array(z.strictObject({ id: Id, capacity: z.number().min(0).max(100) })).max(500),
  /** For panels: who sits on each; all of a panel read each of its scripts. */
  panels: z.array(z.array(Id).max(9, 'A panel has nine members at most.')).max(100),
  avoidOwnSection: z.boolean(),
  seed: z.number().int(),
  /** Who reads what stays; only what has too few readers, or a reader who has no time for it any more, is given out. */
  keep: z.boolean(),
  /** Markers whose begun scripts go to others as well; what they did of them is kept. */
  moveBegun: z.array(Id).max(500),
  /** For a sample: what of all, how many at least, how near a boundary of the pass mark counts as near. */
  sample: z.strictObject({
    share: z.number().min(0).max(1),
    least: z.number().int().min(0).max(10_000),
    zone: z.number().min(0).max(1000),
    /** Students chosen one by one, in place of a draw. */
    only: z.array(Id).max(20_000).optional(),
  }),
})
export type ShareRule = z.infer<typeof ShareRule>

const Load = z.strictObject({
  id: Id,
  name: z.string(),
  /** What they have now: allotted, begun, handed in. */
  allotted: z.number().int(),
  draft: z.number().int(),
  handedIn: z.number().int(),
  due: z.iso.date().nullable(),
  teaches: z.array(z.string()),
})

/** What somebody leaves unread, and who would read it. */
export const HandOver = z.strictObject({
  assessments: z.array(
    z.strictObject({
      id: Id,
      title: z.string(),
      scripts: z.number().int(),
      begun: z.number().int(),
      to: z.array(z.strictObject({ name: z.string(), scripts: z.number().int() })),
    }),
  ),
  /** Why it cannot be; null where it can. */
  why: z.string().nullable(),
})
export type HandOver = z.infer<typeof HandOver>

/** How an assessment is shared out. */
export const Sharing = z.strictObject({
  assessment: Assessment.pick({ id: true, title: true, marking: true, readingsWanted: true, version: true }).extend({
    blind: z.boolean(),
    sees: Sees,
  }),
  scripts: z.number().int(),
  /** Scripts with fewer readers than are wanted. */
  short: z.number().int(),
  /** Scripts in nobody's pile any more, since their students withdrew. */
  withdrawn: z.number().int(),
  /** Marks to a boundary within which a script is read again, where nothing else is said. */
  usualZone: z.number(),
  loads: z.array(Load),
  /** Markers who share scripts, by name; more than one group cannot be compared fairly. */
  groups: z.array(z.array(z.string())),
  /** The last sharing out, which can be taken back; null where there is none. */
  latest: z.number().int().nullable(),
  /** How it was shared out last, to go on from; null where it never was. */
  rule: ShareRule.nullable(),
})
export type Sharing = z.infer<typeof Sharing>

/** What sharing out would give, before it is done. */
export const SharingTried = z.strictObject({
  /** `given`: readings that are theirs and were not before; `kept`: begun or done. */
  loads: z.array(
    z.strictObject({
      id: Id,
      name: z.string(),
      before: z.number().int(),
      after: z.number().int(),
      given: z.number().int(),
      kept: z.number().int(),
    }),
  ),
  /** Readings given to a new reader, left with their reader, and taken from one. */
  readings: z.number().int(),
  stay: z.number().int(),
  taken: z.number().int(),
  /** Marks that stand now and would wait for a further reading. */
  opens: z.number().int(),
  /** How many readings a script would need before it has a mark. */
  readingsWanted: z.number().int(),
  ownSection: z.number().int(),
  groups: z.array(z.array(z.string())),
  /** The fewest further readings that would join the groups. */
  joining: z.array(z.strictObject({ student: z.string(), marker: z.string() })),
  /** Why scripts are in the sample; empty without one. */
  sample: z.array(z.strictObject({ why: z.enum(['fails', 'near a boundary', 'drawn', 'chosen']), scripts: z.number().int() })),
  notes: z.array(z.string()),
})
export type SharingTried = z.infer<typeof SharingTried>
