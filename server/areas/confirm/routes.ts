import { randomUUID } from 'node:crypto'
import { openItems, planFacts, workingsOf } from '#core/trial'
import { routes, type IssueContent, type IssueHead } from '#contract'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { sendFile } from '../../kernel/send-file'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { TableLoader } from '../../kernel/course/load-table'
import { decisions } from '../../kernel/course/decisions'
import { contentHash, issueContent } from '../../kernel/course/issue-content'
import { resultsCsv, resultsXlsx } from './results-files'

interface IssueRow {
  number: number
  hash: string
  made_at: string
  content: string
  reopened_name: string | null
  reopened_at: string | null
  reopened_reason: string | null
}

export function confirmRoutes(handle: Handle, db: Db, tables: TableLoader, writes: CourseWrites): void {
  const record = decisions(db)
  const select = 'SELECT i.*, p.name AS reopened_name FROM issue i LEFT JOIN person p ON p.id = i.reopened_by WHERE i.course_id = ?'
  const issues = db.prepare<[string], IssueRow>(`${select} ORDER BY i.number DESC`)
  const issue = db.prepare<[string, number], IssueRow>(`${select} AND i.number = ?`)
  const signatures = db.prepare<[string, number], IssueHead['signatures'][number]>(
    'SELECT p.name AS by, s.role, s.at, s.statement FROM signature s JOIN person p ON p.id = s.person_id WHERE s.course_id = ? AND s.number = ? ORDER BY s.at',
  )
  const insert = db.prepare('INSERT INTO issue (course_id, number, content, hash, made_at) VALUES (?, ?, ?, ?, ?)')
  const sign = db.prepare('INSERT INTO signature (course_id, number, person_id, role, statement, at) VALUES (?, ?, ?, ?, ?, ?)')
  const signed = db.prepare<[string, number, string], object>(
    'SELECT 1 FROM signature WHERE course_id = ? AND number = ? AND person_id = ?',
  )
  const reopened = db.prepare('UPDATE issue SET reopened_by = ?, reopened_at = ?, reopened_reason = ? WHERE course_id = ? AND number = ?')

  const headOf = (courseId: string, r: IssueRow): IssueHead => ({
    number: r.number,
    hash: r.hash,
    at: r.made_at,
    signatures: signatures.all(courseId, r.number),
    reopened: r.reopened_at === null ? null : { by: r.reopened_name!, at: r.reopened_at, reason: r.reopened_reason! },
  })
  const find = (courseId: string, number: number): IssueRow => {
    const row = issue.get(courseId, number)
    if (!row) throw new HttpProblem(404, `There is no issue ${number}.`)
    return row
  }
  const contentOf = (courseId: string, number: number) => JSON.parse(find(courseId, number).content) as IssueContent

  handle(routes.issues, ({ params }) => issues.all(params.courseId).map((r) => headOf(params.courseId, r)))

  handle(routes.issue, ({ params }) => contentOf(params.courseId, params.number))

  handle(routes.confirm, ({ params: { courseId }, body, me, role }) => {
    const table = tables.load(courseId)
    return writes.writeOpen(courseId, () => {
      const blocking = openItems(workingsOf(table), planFacts(table)).filter((i) => i.blocking)
      if (blocking.length > 0)
        throw new HttpProblem(
          409,
          `Not yet: ${blocking.map((i) => `${i.count} open at ${i.stop.replace('-', ' ')}`).join(', ')}. Clear these first.`,
        )
      const number = (issues.all(courseId)[0]?.number ?? 0) + 1
      const content = issueContent(table, number)
      if (content.results.every((r) => r.grade === null))
        throw new HttpProblem(409, 'Nobody has a final grade yet, so there is nothing to confirm.')
      insert.run(courseId, number, JSON.stringify(content), contentHash(content), now())
      sign.run(courseId, number, me.id, role, body.statement, now())
      const graded = content.results.filter((r) => r.grade !== null).length
      record.add({
        id: randomUUID(),
        courseId,
        kind: 'confirm',
        summary: `Issue ${number} confirmed: ${graded} of ${content.results.length} with a grade`,
        changes: [],
        effect: null,
        reason: body.statement,
        by: me.id,
      })
      return headOf(courseId, find(courseId, number))
    })
  })

  handle(routes.countersign, ({ params: { courseId, number }, body, me, role }) =>
    writes.write(courseId, () => {
      if (find(courseId, number).reopened_at) throw new HttpProblem(409, `Issue ${number} was reopened: sign the next one.`)
      if (signed.get(courseId, number, me.id))
        throw new HttpProblem(409, 'You have signed this issue already: the second signature is another person’s.')
      sign.run(courseId, number, me.id, role, body.statement, now())
      return headOf(courseId, find(courseId, number))
    }),
  )

  handle(routes.reopen, ({ params: { courseId }, body, me }) =>
    writes.write(courseId, () => {
      const current = issues.all(courseId)[0]
      if (!current || current.reopened_at) throw new HttpProblem(409, 'The course is open already.')
      reopened.run(me.id, now(), body.reason, courseId, current.number)
      const id = record.add({
        id: randomUUID(),
        courseId,
        kind: 'reopen',
        summary: `Issue ${current.number} reopened`,
        changes: [],
        effect: null,
        reason: body.reason,
        by: me.id,
      })
      return record.get(id)!
    }),
  )

  const fileName = (c: IssueContent, ending: string) => `${c.course.code} ${c.course.term} issue ${c.number}.${ending}`.replace(/\s+/g, '-')
  handle(routes.resultsCsv, ({ params, res }) => {
    const content = contentOf(params.courseId, params.number)
    return sendFile(res, { name: fileName(content, 'csv'), type: 'text/csv; charset=utf-8', content: resultsCsv(content) })
  })
  handle(routes.resultsXlsx, async ({ params, res }) => {
    const content = contentOf(params.courseId, params.number)
    return sendFile(res, { name: fileName(content, 'xlsx'), type: routes.resultsXlsx.produces!, content: await resultsXlsx(content) })
  })
}
