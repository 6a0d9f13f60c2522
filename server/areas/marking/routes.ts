import { packSheet, routes, type CellState, type CourseTable, type ScriptDetail } from '#contract'
import { stringify } from 'csv-stringify/sync'
import type { Response } from 'express'
import type { Status } from '#core'
import { writeWorkbook } from '#core/exchange/workbook'
import type { Db } from '../../db/open'
import type { Handle } from '../../http'
import { HttpProblem } from '../../problem'
import type { CourseWrites } from '../table/course-writes'
import type { PlanLoader } from '../table/load-plan'
import type { TableLoader } from '../table/load-table'
import { earlierReadings } from './earlier-readings'
import { marksTable } from './marks-table'
import { tryMarksFile } from './marks-file'
import { sheets } from './sheet'

export function markingRoutes(handle: Handle, db: Db, plans: PlanLoader, tables: TableLoader, writes: CourseWrites): void {
  const { sheetFor, write } = sheets(db, tables, plans)
  const bonuses = (courseId: string) =>
    new Set(
      tables
        .load(courseId)
        .assessments.filter((a: CourseTable['assessments'][number]) => a.bonus)
        .map((a) => a.id),
    )

  handle(routes.sheet, ({ params, me, look, role }) => {
    const sheet = sheetFor(params.courseId, me.id, role)
    return packSheet(look?.courseId === params.courseId ? { ...sheet, writable: false } : sheet)
  })

  handle(routes.writeCells, ({ params: { courseId }, body, me, role }) =>
    writes.writeMarks(courseId, () => write(courseId, body.cells, me.id, role)),
  )

  const sendSheet = (res: Response, courseId: string, ending: string, type: string, content: string | Uint8Array) => {
    const { code, term } = plans.load(courseId).plan.head
    res.attachment(`marks ${code} ${term}.${ending}`.replace(/[^\w. -]/g, '_'))
    res.type(type).send(typeof content === 'string' ? content : Buffer.from(content))
    return undefined
  }
  handle(routes.marksCsv, ({ params: { courseId }, me, role, res }) => {
    const rows = marksTable(sheetFor(courseId, me.id, role))
    const csv = stringify(rows, { bom: true, record_delimiter: 'windows', escape_formulas: true })
    return sendSheet(res, courseId, 'csv', routes.marksCsv.produces!, csv)
  })
  handle(routes.marksXlsx, async ({ params: { courseId }, me, role, res }) => {
    const [header, ...rows] = marksTable(sheetFor(courseId, me.id, role))
    return sendSheet(res, courseId, 'xlsx', routes.marksXlsx.produces!, await writeWorkbook('Marks', header!, rows))
  })

  handle(
    routes.tryImport,
    ({ params: { courseId }, body, me, role }) => tryMarksFile(body.text, sheetFor(courseId, me.id, role), bonuses(courseId)).tried,
  )

  handle(routes.bringIn, ({ params: { courseId }, body, me, role }) =>
    writes.writeMarks(courseId, () => {
      const { tried, writes: cells } = tryMarksFile(body.text, sheetFor(courseId, me.id, role), bonuses(courseId))
      if (tried.counts.refused > 0)
        throw new HttpProblem(
          422,
          `${tried.counts.refused} rows are refused, so nothing was brought in. Try the file to see which and why.`,
          { field: 'text' },
        )
      const { refused } = write(courseId, cells, me.id, role)
      if (refused[0]) throw new HttpProblem(409, refused[0].message)
      return tried
    }),
  )

  const script = db.prepare<
    [string, string],
    {
      id: string
      assessment_id: string
      status: Status
      days_late: number
      entered: number | null
      came_at: string | null
      student: string
      name: string
      candidate: string
      section: string
    }
  >(`SELECT s.id, s.assessment_id, s.status, s.days_late, s.entered, s.came_at, t.id AS student, t.name, t.candidate, coalesce(e.section_id, '') AS section
     FROM script s JOIN student t ON t.id = s.student_id LEFT JOIN enrolment e ON e.student_id = t.id AND e.to_day IS NULL
     WHERE s.id = ? AND t.course_id = ?`)
  const readings = db.prepare<
    [string],
    {
      id: string
      markerId: string
      marker: string
      mark: number
      picks: string
      madeMark: number | null
      judgement: string | null
      comment: string
      criterion_comments: string
      handedInAt: string
    }
  >(`SELECT r.id, r.marker_id AS markerId, p.name AS marker, coalesce(c.mark, r.mark) AS mark, coalesce(c.picks, r.picks) AS picks,
       CASE WHEN c.reading_id IS NULL THEN NULL ELSE r.mark END AS madeMark, r.judgement, r.comment, r.criterion_comments, r.handed_in_at AS handedInAt
     FROM reading r JOIN person p ON p.id = r.marker_id LEFT JOIN carried_in_force c ON c.reading_id = r.id AND c.version = r.version WHERE r.script_id = ? AND r.state = 'handed in' ORDER BY r.handed_in_at, r.rowid`)
  const history = db.prepare<[string], CellState>(
    `SELECT h.at, p.name AS by, h.entered AS mark, h.status, h.days_late AS daysLate FROM script_state h JOIN person p ON p.id = h.by_id
     WHERE h.script_id = ? ORDER BY h.version DESC`,
  )
  const cell = db.prepare<[string, string, string], { id: string; teacherId: string | null }>(
    `SELECT s.id, x.teacher_id AS teacherId FROM script s JOIN student t ON t.id = s.student_id
     LEFT JOIN enrolment e ON e.student_id = t.id AND e.to_day IS NULL LEFT JOIN section x ON x.id = e.section_id
     WHERE s.student_id = ? AND s.assessment_id = ? AND t.course_id = ?`,
  )
  const { earlier } = earlierReadings(db)

  handle(routes.cellStates, ({ params: { courseId, studentId, assessmentId }, me, role }) => {
    const row = cell.get(studentId, assessmentId, courseId)
    // Where nothing was recorded yet there is nothing to tell, and nothing to tell apart from what is not theirs.
    return row && (role !== 'marker' || row.teacherId === me.id) ? history.all(row.id) : []
  })

  handle(routes.script, ({ params }): ScriptDetail => {
    const row = script.get(params.scriptId, params.courseId)
    if (!row) throw new HttpProblem(404, 'There is no such script.')
    return {
      id: row.id,
      student: { id: row.student, name: row.name, candidate: row.candidate, sectionId: row.section },
      assessmentId: row.assessment_id,
      status: row.status,
      daysLate: row.days_late,
      entered: row.entered,
      cameAt: row.came_at,
      readings: readings.all(row.id).map(({ id, picks, criterion_comments, ...r }) => ({
        ...r,
        earlier: earlier(id),
        picks: JSON.parse(picks) as Record<string, number>,
        criterionComments: JSON.parse(criterion_comments) as Record<string, string>,
      })),
      history: history.all(row.id),
    }
  })
}
