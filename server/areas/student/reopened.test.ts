import type { IssueContent, OwnWork } from '#contract'
import { COURSE, demoServer, type Client } from '../../testing/serve'

// The one that is confirmed.
const LAST = 'cfs214-2025'
const { server, lead } = demoServer()
let student: Client
let studentId: string
let title: string
let confirmed: number

beforeAll(async () => {
  const { db } = server
  const content = JSON.parse(db.prepare('SELECT content FROM issue WHERE course_id = ?').pluck().get(LAST) as string) as IssueContent
  const result = content.results.find((r) => typeof r.marks?.[0] === 'number')!
  studentId = result.studentId
  title = content.assessments![0]!.title
  confirmed = result.marks![0] as number
  db.prepare("UPDATE student SET person_id = 'student' WHERE id = ?").run(studentId)
  db.prepare("INSERT INTO course_role VALUES (?, 'student', 'student')").run(LAST)
  db.prepare("INSERT OR REPLACE INTO course_role VALUES (?, 'lead', 'lead')").run(LAST)
  for (const { id } of db.prepare<[string], { id: string }>('SELECT id FROM section WHERE course_id = ?').all(LAST))
    db.prepare(
      "INSERT OR REPLACE INTO result_release (course_id, section_id, on_day, by_id, at) VALUES (?, ?, '2026-01-01', 'lead', '2026-01-01T00:00:00.000Z')",
    ).run(LAST, id)
  db.prepare(
    `UPDATE placement SET release = '{"kind":"confirmed"}' WHERE assessment_id IN (SELECT id FROM assessment WHERE course_id = ?)`,
  ).run(LAST)
  student = await server.as('student')
}, 60_000)

const own = async () => (await student('get', `/api/courses/${LAST}/own-work`).expect(200)).body as OwnWork
const mark = async () => (await own()).work.find((w) => w.assessment === title)!.mark
const assessment = () =>
  server.db.prepare<[string, string], { id: string }>('SELECT id FROM assessment WHERE course_id = ? AND title = ?').get(LAST, title)!.id

test('while a course is reopened its students see the marks of the issue that still counts, and not what is typed anew', async () => {
  expect(await mark()).toBe(confirmed)
  server.db
    .prepare("INSERT INTO outcome_shown (course_id, outcome_id, by_id, at) VALUES (?, 'outcome-draw', 'lead', '2026-01-01')")
    .run(LAST)
  const before = await own()
  server.db
    .prepare(
      "UPDATE issue SET reopened_by = 'lead', reopened_at = '2026-02-01T00:00:00.000Z', reopened_reason = 'A marker asks' WHERE course_id = ?",
    )
    .run(LAST)
  const { version } = server.db
    .prepare<[string, string], { version: number }>('SELECT version FROM script WHERE student_id = ? AND assessment_id = ?')
    .get(studentId, assessment())!
  const cell = { studentId, assessmentId: assessment(), version, mark: confirmed - 0.375, status: 'in', daysLate: 0 }
  await lead('patch', `/api/courses/${LAST}/sheet`, { cells: [cell] }).expect(200)
  expect(await mark()).toBe(confirmed)
  const after = await own()
  expect(after.work.map((w) => w.mark)).toEqual(before.work.map((w) => w.mark))
  expect(after.result).toEqual(before.result)
  // Where they stand is read from readings, of which no issue holds those that counted then.
  expect([before.standings?.length, after.standings]).toEqual([1, null])
  const section = server.db.prepare<[string], string>('SELECT section_id FROM enrolment WHERE student_id = ?').pluck().get(studentId)!
  const seen = await lead('get', `/api/courses/${LAST}/sections/${section}/class`).expect(200)
  expect(seen.text).not.toContain(String(confirmed - 0.375))
  // Another course of theirs is not touched by it.
  await student('get', `/api/courses/${COURSE}/own-work`).expect(200)
})
