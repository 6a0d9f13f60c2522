import { FileError } from '#core/exchange/delimited'
import { gradeWorkings, workingsOf } from '#core/trial'
import type { IssueContent } from '#contract'
import { contentHash, gradesIssued } from '../../../kernel/course/issue-content'
import { planLoader } from '../../../kernel/course/load-plan'
import { tableLoader } from '../../../kernel/course/load-table'
import type { Db } from '../../../kernel/db/open'
import { peopleOf, shapes } from './columns'
import { pathOf } from './take-out'

/**
 * Whether the rows of a package hold together, belong to one course that can be worked out, and what was confirmed is as it was.
 * @throws FileError where they do not
 */
export function checkPackage(db: Db, courseId: string): void {
  const loose = db.pragma('foreign_key_check') as { table: string; rowid: number; parent: string }[]
  if (loose.length > 0)
    throw new FileError(
      `${pathOf({ name: loose[0]!.table })}, row ${loose[0]!.rowid + 1}: the ${loose[0]!.parent} that it refers to is not in the package.`,
    )
  const all = shapes(db)
  for (const t of all) {
    const where = t.rows === 'PEOPLE' ? `t.id IN (${peopleOf(all)})` : t.rows
    const others = db
      .prepare<[{ course: string }], { n: number }>(`SELECT count(*) AS n FROM "${t.name}" t WHERE NOT (${where})`)
      .get({ course: courseId })!.n
    if (others > 0) throw new FileError(`${pathOf(t)} has ${others} rows that do not belong to the course.`)
  }
  checkIssues(db, courseId)
  try {
    gradeWorkings(workingsOf(tableLoader(db, planLoader(db)).load(courseId)))
  } catch (e) {
    throw new FileError(`The course cannot be worked out from what is in the package: ${e instanceof Error ? e.message : String(e)}`)
  }
}

interface KeptIssue {
  number: number
  content: string
  hash: string
  namelessHash: string | null
  boundaries: string
  counts: string
  nameless: 0 | 1
}

/** Where names were taken out of an issue since, its hash is that of what was confirmed, and the other one that of what is left of it. */
function checkIssues(db: Db, courseId: string): void {
  const issues = db
    .prepare<[string], KeptIssue>(
      `SELECT i.number, i.content, i.hash, i.nameless_hash AS namelessHash, i.boundaries, i.counts, c.nameless_at IS NOT NULL AS nameless
       FROM issue i JOIN course c ON c.id = i.course_id WHERE c.id = ?`,
    )
    .all(courseId)
  const named = db
    .prepare<[string], { candidate: string }>(
      `SELECT s.candidate FROM student s JOIN course c ON c.id = s.course_id
       WHERE c.id = ? AND c.nameless_at IS NOT NULL AND (s.name <> s.candidate OR s.external_id IS NOT NULL)`,
    )
    .get(courseId)
  if (named) throw new FileError(`The package says that the course is nameless, and student ${named.candidate} has a name in it.`)
  const signed = db.prepare<[string, number], { hash: string }>(
    "SELECT hash FROM signature WHERE course_id = ? AND number = ? AND hash <> ''",
  )
  for (const { number, content: text, hash, namelessHash, boundaries, counts, nameless } of issues) {
    const content = JSON.parse(text) as IssueContent
    const differs = (what: string) => new FileError(`Issue ${number} is not as it was confirmed: ${what}.`)
    const own = nameless === 1 ? namelessHash : hash
    if (own !== null && contentHash(content) !== own) throw differs('its hash differs')
    if (nameless === 1 && content.results.some((r) => r.name !== r.candidate)) throw differs('it is nameless, and has names in it')
    if (signed.all(courseId, number).some((s) => s.hash !== hash)) throw differs('what was signed has another hash')
    if (content.number !== number) throw differs('it has another number')
    if (JSON.stringify(content.boundaries) !== boundaries) throw differs('its boundaries differ')
    const said = JSON.parse(counts) as Record<string, number>
    const given = gradesIssued(content)
    if (Object.keys({ ...said, ...given }).some((grade) => (said[grade] ?? 0) !== (given[grade] ?? 0)))
      throw differs('the grades that it counts are not those in it')
  }
}
