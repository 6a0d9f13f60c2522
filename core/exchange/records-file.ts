import type { IssueContent } from '../issues/issue'
import { writeDelimited } from './write-delimited'

/** What a records office asks for of an issue beside its results. */
export interface OfIssue {
  /** When it was frozen, ISO 8601. */
  at: string
  /** SHA-256 of its content. */
  hash: string
  signatures: readonly { by: string; role: string; at: string }[]
  /** Student → the number by which the office knows them, where it has one. */
  numberOf: ReadonlyMap<string, string | null>
}

export const RECORDS_HEADER = [
  'candidate',
  'external id',
  'course',
  'term',
  'section',
  'percent',
  'grade',
  'status',
  'issue',
  'date',
  'signed by',
  'content hash',
] as const

/**
 * Confirmed results for a records office as CSV (RFC 4180), one row a student and no names: who, of what, what it came to, and by whose
 * hand. The status is `final`, or how many marks are pending.
 */
export const recordsFile = ({ course, number, results }: IssueContent, of: OfIssue): string => {
  const signed = of.signatures.map((s) => `${s.by} (${s.role}) ${s.at.slice(0, 10)}`).join('; ')
  return writeDelimited([
    RECORDS_HEADER,
    ...results.map((r) => [
      r.candidate,
      of.numberOf.get(r.studentId) ?? '',
      course.code,
      course.term,
      r.section,
      r.rounded ?? '',
      r.grade ?? '',
      r.grade === null ? `pending ${r.pending}` : 'final',
      number,
      of.at.slice(0, 10),
      signed,
      of.hash,
    ]),
  ])
}
