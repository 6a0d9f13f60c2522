import type { MessagePort } from 'node:worker_threads'
import { compareIssues, type Frozen, type IssueDifference, type OwnIssued } from '#core/issues'
import { openItems, planFacts, standingMarks, workingsOf, type OpenItem } from '#core/trial'
import { unpackTable, type IssueContent, type IssueHead, type MakingStep } from '#contract'
import { canonicalContent, gradesIssued, issueContent } from '../kernel/course/issue-content'
import { issuesOf } from '../kernel/course/issues'
import { planLoader } from '../kernel/course/load-plan'
import type { PackedTable } from '../kernel/course/packed-table'
import { rosterIds, rosterNames } from '../kernel/course/roster-ids'
import { whoWrote } from '../kernel/course/who-wrote'
import { sha256 } from '../kernel/sha256'
import { recordsFile } from '#core/exchange/records-file'
import { oneRosterResults } from '#core/exchange/one-roster-results'
import { reading } from './reading'
import { telling } from './telling'
import { resultsCsv, resultsXlsx } from '../areas/confirm/results-files'
import type { IssueParts } from '../kernel/course/issued-results'

/** After every moment. */
const NEVER = '9999'

interface OfCourse {
  /** The database. */
  file: string
  courseId: string
}

/** The results as they stand, ready to be frozen. */
export interface IssueMade {
  /** Of the course, when its marks were read. */
  version: number
  blocking: OpenItem[]
  content: string
  hash: string
  boundaries: IssueContent['boundaries']
  counts: Record<string, number>
  students: number
}

/** A course as it is decided, and what was decided, packed where they are kept. */
export interface ToFreeze {
  table: PackedTable
  number: number
  decisions: NonNullable<IssueContent['decisions']>
}

type Tell = (step: MakingStep) => void

const contentOf = ({ table, number, decisions }: ToFreeze, told: Tell = () => undefined) => {
  told('reading the marks')
  const unpacked = unpackTable(table)
  const workings = workingsOf(unpacked)
  const standing = standingMarks(workings)
  return { table: unpacked, workings, standing, content: issueContent(unpacked, number, decisions, told, workings, standing) }
}

/** What the next issue would be; each step is told at the port as it begins. */
export const issueMade = ({ port, ...of }: ToFreeze & { port: MessagePort }): Promise<IssueMade> =>
  telling<IssueMade, MakingStep>(port, (tell) => made(of, tell))

function made(of: ToFreeze, told: Tell): IssueMade {
  const { table, workings, standing, content } = contentOf(of, told)
  told('sealing it')
  const canonical = canonicalContent(content)
  return {
    version: table.version,
    blocking: openItems(workings, planFacts(table), standing).filter((i) => i.blocking),
    content: canonical,
    hash: sha256(canonical),
    boundaries: content.boundaries,
    counts: gradesIssued(content),
    students: content.results.length,
  }
}

/** In what two issues differ, or one and what would be frozen now. */
export const issuesCompared = ({ file, courseId, from, to }: OfCourse & { from: number; to: number | ToFreeze }): IssueDifference =>
  reading(file, (db) => {
    const issues = issuesOf(db)
    const content = (number: number) => JSON.parse(issues.content(courseId, number)) as IssueContent
    const at = (number: number) => issues.head(courseId, number).at
    const writtenBy = whoWrote(db, { courseId, after: at(from), until: typeof to === 'number' ? at(to) : NEVER })
    return compareIssues(content(from), typeof to === 'number' ? content(to) : contentOf(to).content, writtenBy)
  })

/** An issue taken apart by student, each result as JSON: it travels in two texts and not as a great many objects. */
/** What an issue holds for each of its students, without their names. */
export const issueParts = ({ file, courseId, number }: OfCourse & { number: number }): IssueParts =>
  reading(file, (db) => {
    const { policy, boundaries, components, assessments, conditions, results } = JSON.parse(
      issuesOf(db).content(courseId, number),
    ) as IssueContent
    return {
      frozen: JSON.stringify({ policy, boundaries, components, assessments, conditions } satisfies Frozen),
      studentIds: results.map((r) => r.studentId),
      results: results.map(({ name: _, candidate: __, ...own }): string => JSON.stringify(own satisfies OwnIssued)),
    }
  })

/** What is handed over of each student of an issue. */
export const issueRows = ({
  file,
  courseId,
  number,
}: OfCourse & { number: number }): { studentId: string; grade: string | null; percent: number | null }[] =>
  reading(file, (db) => {
    const { results } = JSON.parse(issuesOf(db).content(courseId, number)) as IssueContent
    return results.map(({ studentId, grade, rounded }) => ({ studentId, grade, percent: rounded }))
  })

/** An issue as a records office takes it in. */
export const officeFile = ({ file, courseId, number }: OfCourse & { number: number }): Uint8Array =>
  reading(file, (db) => {
    const content = JSON.parse(issuesOf(db).content(courseId, number)) as IssueContent
    const numberOf = new Map(
      db.prepare<[string], [string, string | null]>('SELECT id, external_id FROM student WHERE course_id = ?').raw().all(courseId),
    )
    return new TextEncoder().encode(recordsFile(content, { ...issuesOf(db).head(courseId, number), numberOf }))
  })

/** An issue as OneRoster results. */
export const oneRosterFile = ({ file, courseId, number }: OfCourse & { number: number }): Uint8Array =>
  reading(file, (db) => {
    const { at } = issuesOf(db).head(courseId, number)
    const plan = planLoader(db).load(courseId).plan
    const { classOf } = rosterNames(db, courseId)
    const sections = new Map(plan.sections.map((s) => [s.name, classOf(s.id)]))
    return oneRosterResults(JSON.parse(issuesOf(db).content(courseId, number)) as IssueContent, {
      courseId,
      at,
      sectionIdOf: (name) => sections.get(name) ?? name,
      numberOf: rosterIds(db, courseId),
      due: (title) => {
        const at = plan.assessments.findIndex((a) => a.title === title)
        return (
          plan.placements
            .flatMap(([a, , due]) => (a === at && due ? [due] : []))
            .sort()
            .at(-1) ?? plan.head.lastDay
        )
      },
      firstDay: plan.head.firstDay,
      lastDay: plan.head.lastDay,
    })
  })

export type IssueFileKind = 'csv' | 'xlsx' | 'json'

/** An issue as a file. */
export function issueFile({ file, courseId, number, as }: OfCourse & { number: number; as: IssueFileKind }): Promise<Uint8Array> {
  const { content, head } = reading(file, (db) => {
    const issues = issuesOf(db)
    return { content: JSON.parse(issues.content(courseId, number)) as IssueContent, head: issues.head(courseId, number) }
  })
  return FILES[as](content, head)
}

const FILES: Record<IssueFileKind, (content: IssueContent, head: IssueHead) => Promise<Uint8Array>> = {
  csv: (content, head) => Promise.resolve(new TextEncoder().encode(resultsCsv(content, head))),
  xlsx: (content, head) => resultsXlsx(content, head),
  // Byte for byte what is hashed.
  json: (content) => Promise.resolve(new TextEncoder().encode(canonicalContent(content))),
}
