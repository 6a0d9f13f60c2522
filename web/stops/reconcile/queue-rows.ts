import type { HandedInReading } from '#core/trial'

export interface QueueRow {
  scriptId: string
  studentId: string
  assessmentId: string
  readings: HandedInReading[]
  /** How many those are. */
  read: number
  /** The lowest of them, and of the mark that was typed beside them. */
  lowest: number
  /** Between its readings, and the mark that was typed where they do not bear it out. */
  spread: number
  /** Further apart than its assessment tolerates, or typed otherwise: a person settles it. */
  over: boolean
  /** The mark typed in the sheet that the readings do not bear out; null where there is none. */
  typed: number | null
  /** The agreed mark, as decided or as it is being tried; null while it is open. */
  agreed: number | null
  /** It was settled by its assessment’s standing rule. */
  ruled: boolean
  /** The agreed mark, or that it is open again, is being tried and not adopted. */
  trying: boolean
  /** It was settled, and is open again: by a reading since, or by a decision. */
  reopened: boolean
  /** Grades that the lowest and the highest reading would lead to, as it is rescaled; null where it is settled within tolerance. */
  stake: [string | null, string | null] | null
  /** Percents between what its readings give in the middle and the nearest boundary; null where nobody can tell. */
  near: number | null
}

/** What waits to be settled, and what was. */
export interface ReadingQueue {
  /** Assessments with something to settle or settled, in the order of the plan. */
  toSettle: string[]
  /** What is shown; null for all. */
  assessmentId: string | null
  /** Scripts to settle as it is decided, the same figure as at the stop; those over tolerance and those within it. */
  open: number
  openOver: number
  /** Pairs of markers who read scripts of it together, each with how many, the most first. */
  pairs: { a: string; b: string; scripts: number }[]
  rows: QueueRow[]
}
