import { routes, type RecordsState, type RecordsSending, type RefusedResult, type SentResult } from '#contract'
import { randomUUID } from 'node:crypto'
import type { Clock } from '../../kernel/clock'
import type { CourseWrites } from '../../kernel/course/course-writes'
import { decisions } from '../../kernel/course/decisions'
import { issuesOf } from '../../kernel/course/issues'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { orProblem } from '../../kernel/or-problem'
import { HttpProblem } from '../../kernel/problem'
import { sendFile } from '../../kernel/send-file'
import type { RecordsOffice } from '../../standins/records-office'
import type { WorkerPool } from '../../workers/pool'
import type { Announcing } from './announce'
import { officeNumbers } from './office-numbers'
import { recordQueries, type HandOverRow } from './queries'

interface Needs {
  pool: WorkerPool
  office: RecordsOffice
  announcing: Announcing
  clock: Clock
}

/** What becomes of the issue in force: students see it, and the records office enters it. */
export function recordsRoutes(handle: Handle, db: Db, writes: CourseWrites, { pool, office, announcing, clock }: Needs): void {
  const issues = issuesOf(db)
  const record = decisions(db)
  const file = db.name
  const { sections, setRelease, holdBack, all, rows, one, insert, answered, withdraw, numbers, course } = recordQueries(db)

  const releasesOf = (courseId: string) => sections.all(courseId).map(({ id, onDay }) => ({ sectionId: id, onDay }))
  /** @throws HttpProblem 409 where nothing is in force */
  function inForce(courseId: string): number {
    const issue = issues.inForce(courseId)
    if (!issue) throw new HttpProblem(409, 'No issue is in force: all who must have to sign first, and nobody may object.')
    return issue.number
  }
  const shown = (courseId: string, row: HandOverRow): RecordsSending => {
    const { id, number, by, at, receipt } = row
    const [sent, refused] = [JSON.parse(row.sent) as SentResult[], JSON.parse(row.refused) as RefusedResult[]]
    const onRoll = new Map(numbers.all(courseId).map((s) => [s.id, s.number]))
    const no = new Set(refused.map((r) => r.studentId))
    const otherwise =
      receipt === null ? [] : sent.filter((r) => !no.has(r.studentId) && r.number !== '' && r.number !== onRoll.get(r.studentId))
    return {
      id,
      number,
      by,
      at,
      sent: sent.length,
      receipt,
      refused,
      otherwise: otherwise.map((r) => ({ studentId: r.studentId, number: r.number })),
    }
  }
  const listed = (courseId: string) => all.all(courseId).map((row) => shown(courseId, row))

  handle(routes.releases, ({ params }) => releasesOf(params.courseId))

  handle(routes.release, async ({ params: { courseId }, body: { sectionIds, onDay }, me }) => {
    inForce(courseId)
    const before = new Map(releasesOf(courseId).map((r) => [r.sectionId, r.onDay]))
    const today = clock.today()
    for (const id of sectionIds) {
      if (!before.has(id)) throw new HttpProblem(422, 'There is no such section in this course.', { field: 'sectionIds' })
      const was = before.get(id)
      if (was && was <= today && (onDay === null || onDay > today))
        throw new HttpProblem(409, 'Its students have seen their results already, which can’t be taken back.', { field: 'sectionIds' })
    }
    writes.writeBeside(courseId, () => {
      for (const id of sectionIds) {
        if (onDay === null) holdBack.run(courseId, id)
        else setRelease.run(courseId, id, onDay, me.id, now())
      }
    })
    if (onDay !== null && onDay <= today) await announcing.due()
    return releasesOf(courseId)
  })

  /** What the office has and has not of an issue. */
  async function stateOf(courseId: string, number: number, personId: string) {
    const results = orProblem(await pool.issueRows({ file, courseId, number }, { personId }))
    const taken = new Set<string>()
    const refused = new Map<string, RefusedResult>()
    // The latest word on a student is the one that counts.
    for (const row of rows
      .all(courseId, number)
      .filter((r) => r.receipt !== null)
      .reverse()) {
      const no = new Map((JSON.parse(row.refused) as RefusedResult[]).map((r) => [r.studentId, r]))
      for (const { studentId } of JSON.parse(row.sent) as SentResult[]) {
        const why = no.get(studentId)
        if (why && !taken.has(studentId)) refused.set(studentId, why)
        else {
          taken.add(studentId)
          refused.delete(studentId)
        }
      }
    }
    return { results, taken, refused }
  }

  handle(routes.recordsState, async ({ params: { courseId }, me }): Promise<RecordsState> => {
    const issue = issues.inForce(courseId)
    if (!issue) return { list: listed(courseId), taken: 0, refused: [], waiting: 0, ungraded: 0 }
    const { results, taken, refused } = await stateOf(courseId, issue.number, me.id)
    const graded = results.filter((r) => r.grade !== null)
    return {
      list: listed(courseId),
      taken: taken.size,
      refused: graded.flatMap((r) => {
        const no = refused.get(r.studentId)
        return no ? [{ ...no, grade: r.grade!, percent: r.percent! }] : []
      }),
      waiting: graded.filter((r) => !taken.has(r.studentId) && !refused.has(r.studentId)).length,
      ungraded: results.length - graded.length,
    }
  })

  handle(routes.sendToRecords, async ({ params: { courseId }, body: { key, mended }, me }): Promise<RecordsSending> => {
    const known = one.get(key)
    if (known && known.course_id !== courseId) throw new HttpProblem(409, 'This key was used for another course.')
    if (known?.receipt) return shown(courseId, known)
    const number = known?.number ?? inForce(courseId)
    if (!known) {
      const before = all.all(courseId)
      const later = before.find((r) => r.number > number)
      if (later)
        throw new HttpProblem(
          409,
          `Issue ${later.number} was handed over, and does not count now. Clear the objection to it, or sign the next issue, before you hand over anything else.`,
        )
      if (before.some((r) => r.receipt === null))
        throw new HttpProblem(
          409,
          'The office has not answered the last hand-over yet: ask it again first, so that nothing is entered twice.',
        )
      const { results, taken, refused } = await stateOf(courseId, number, me.id)
      const numbered = officeNumbers(numbers.all(courseId), before)
      const other = new Map(mended?.map((m) => [m.studentId, m.number]))
      for (const { studentId } of mended ?? [])
        if (!refused.has(studentId)) throw new HttpProblem(409, 'One of them was not refused, or is taken by now.', { field: 'mended' })
      for (const [studentId, number] of other) {
        const wrong = numbered.whyNot(studentId, number, other)
        if (wrong) throw new HttpProblem(422, wrong, { field: 'mended' })
      }
      const sent = results.flatMap((r): SentResult[] => {
        if (r.grade === null || taken.has(r.studentId) || (mended ? !other.has(r.studentId) : refused.has(r.studentId))) return []
        return [
          {
            studentId: r.studentId,
            number: other.get(r.studentId) ?? numbered.of(r.studentId),
            grade: r.grade,
            percent: r.percent!,
          },
        ]
      })
      if (sent.length === 0) throw new HttpProblem(409, 'The office has all of it: nothing is left to hand over.')
      writes.writeBeside(courseId, () => {
        if (all.all(courseId).length !== before.length)
          throw new HttpProblem(409, 'Somebody else has just handed over: look at what the office took first.')
        insert.run(key, courseId, number, me.id, now(), JSON.stringify(sent))
      })
    }
    const { sent } = one.get(key)!
    const rowsSent = JSON.parse(sent) as SentResult[]
    const { receipt, refused } = office.enter(courseId, key, rowsSent)
    return writes.writeBeside(courseId, () => {
      answered.run(receipt, JSON.stringify(refused), now(), key)
      record.add({
        id: randomUUID(),
        courseId,
        kind: 'confirm',
        summary: `Issue ${number} handed over: ${rowsSent.length - refused.length} taken by the records office, ${refused.length} refused`,
        changes: [],
        effect: null,
        reason: `receipt ${receipt}`,
        by: me.id,
      })
      return shown(courseId, one.get(key)!)
    })
  })

  handle(routes.withdrawFromRecords, ({ params: { courseId, handOverId }, body: { studentId }, me }) => {
    const row = one.get(handOverId)
    if (row?.course_id !== courseId || row.receipt === null) throw new HttpProblem(404, 'The office has answered no such hand-over.')
    const sent = (JSON.parse(row.sent) as SentResult[]).find((r) => r.studentId === studentId)
    if (!sent || (JSON.parse(row.refused) as RefusedResult[]).some((r) => r.studentId === studentId))
      throw new HttpProblem(409, 'The office has no result of this student from that hand-over.')
    office.withdraw(courseId, row.id, sent.number)
    return writes.writeBeside(courseId, () => {
      withdraw.run(row.id, studentId, me.id, now())
      record.add({
        id: randomUUID(),
        courseId,
        kind: 'confirm',
        summary: `One result of issue ${row.number} withdrawn from the records office, which had taken it under a wrong number`,
        changes: [],
        effect: null,
        reason: `receipt ${row.receipt!}`,
        by: me.id,
      })
      return shown(courseId, one.get(row.id)!)
    })
  })

  for (const [route, read, what, ending] of [
    [routes.oneRoster, pool.oneRosterFile, 'one-roster', 'zip'],
    [routes.recordsFile, pool.recordsFile, 'for-records', 'csv'],
  ] as const)
    handle(route, async ({ params: { courseId, number }, me, res }) => {
      const { hash } = issues.head(courseId, number)
      const { code, term } = course.get(courseId)!
      const content = orProblem(await read({ file, courseId, number }, { personId: me.id }))
      const name = `${code} ${term} issue ${number} ${hash.slice(0, 12)} ${what}`.replace(/\s+/g, '-')
      return sendFile(res, name, ending, content)
    })
}
