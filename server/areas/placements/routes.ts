import { sightOf } from '#core/roles'
import { routes, type PlacementWrite, type Release } from '#contract'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { sendFile } from '../../kernel/send-file'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { calendarOf } from '../../kernel/calendar'
import type { Clock } from '../../kernel/clock'
import { dueDays } from '../../kernel/due-days'

/** Told of the marks that are let out to students by hand. */
interface Announces {
  letOut: (courseId: string, placed: PlacementWrite[], from: { id: string; name: string }) => Promise<unknown>
}

export function placementRoutes(
  handle: Handle,
  db: Db,
  plans: PlanLoader,
  writes: CourseWrites,
  announcing: Announces,
  clock: Clock,
): void {
  const placement = db.prepare<[string, string], { due: string | null; release: string }>(
    'SELECT due, release FROM placement WHERE assessment_id = ? AND section_id = ?',
  )
  const set = db.prepare(
    `INSERT INTO placement (assessment_id, section_id, due, release) VALUES (?, ?, ?, ?)
     ON CONFLICT DO UPDATE SET due = excluded.due, release = excluded.release`,
  )
  const letOutAt = db.prepare('UPDATE placement SET let_out_at = ? WHERE assessment_id = ? AND section_id = ?')
  const remove = db.prepare('DELETE FROM placement WHERE assessment_id = ? AND section_id = ?')
  const marks = db.prepare<[string, string], { n: number }>(
    `SELECT count(*) AS n FROM script s JOIN enrolment e ON e.student_id = s.student_id
     WHERE s.assessment_id = ? AND e.section_id = ?
       AND (s.entered IS NOT NULL OR s.status <> 'in' OR EXISTS (SELECT 1 FROM reading r WHERE r.script_id = s.id))`,
  )
  const accept = db.prepare(
    'INSERT INTO finding_accepted (course_id, key, reason, by_id, at) VALUES (?, ?, ?, ?, ?) ON CONFLICT DO UPDATE SET reason = excluded.reason',
  )
  const raise = db.prepare('DELETE FROM finding_accepted WHERE course_id = ? AND key = ?')
  const teaches = db.prepare<[string, string], { id: string }>('SELECT id FROM section WHERE course_id = ? AND teacher_id = ?')
  const person = db.prepare<[string, string], { name: string }>(
    'SELECT p.name FROM person p JOIN course_role r ON r.person_id = p.id WHERE p.id = ? AND r.course_id = ?',
  )

  handle(routes.setPlacements, async ({ params: { courseId }, body, me }) => {
    const { plan } = plans.load(courseId)
    const sections = new Map(plan.sections.map((s) => [s.id, s]))
    const assessments = new Map(plan.assessments.map((a) => [a.id, a]))
    // What students may see is said also once results are confirmed.
    const releasesAlone = body.placements.every((p) => p.placed && placement.get(p.assessmentId, p.sectionId)?.due === p.due)
    const write = releasesAlone ? writes.write : writes.writeOpen
    const done = write(courseId, () => {
      const before = body.placements.map(({ assessmentId, sectionId }): PlacementWrite => {
        const row = placement.get(assessmentId, sectionId)
        return {
          assessmentId,
          sectionId,
          placed: !!row,
          due: row?.due ?? null,
          release: row ? (JSON.parse(row.release) as Release) : { kind: 'confirmed' },
        }
      })
      body.placements.forEach((p, i) => {
        const [assessment, section] = [assessments.get(p.assessmentId), sections.get(p.sectionId)]
        if (!assessment || !section)
          throw new HttpProblem(422, `There is no such ${assessment ? 'section' : 'assessment'} in this course.`, {
            field: `placements.${i}`,
          })
        if (p.placed) {
          set.run(p.assessmentId, p.sectionId, p.due, JSON.stringify(p.release))
          if (isOut(p) !== isOut(before[i]!)) letOutAt.run(isOut(p) ? now() : null, p.assessmentId, p.sectionId)
          return
        }
        const { n } = marks.get(p.assessmentId, p.sectionId)!
        if (n > 0)
          throw new HttpProblem(
            409,
            `${assessment.title} has ${n} marks in ${section.name}. Leave its students out instead: that can be tried first, and keeps them.`,
            { field: `placements.${i}` },
          )
        remove.run(p.assessmentId, p.sectionId)
      })
      return { before }
    })
    const letOut = body.placements.filter((p, i) => isOut(p) && !isOut(done.before[i]!))
    if (letOut.length > 0) await announcing.letOut(courseId, letOut, me)
    return done
  })

  handle(routes.acceptFinding, ({ params: { courseId }, body, me }) =>
    writes.write(courseId, () => {
      for (const key of body.keys) accept.run(courseId, key, body.reason, me.id, now())
      return undefined
    }),
  )
  handle(routes.raiseFinding, ({ params: { courseId }, body }) =>
    writes.write(courseId, () => {
      for (const key of body.keys) raise.run(courseId, key)
      return undefined
    }),
  )

  const isOut = ({ placed, release }: PlacementWrite) => placed && release.kind === 'by hand' && release.released

  const daysOf = dueDays(db)
  const own = (courseId: string, personId: string) => new Set(teaches.all(courseId, personId).map((s) => s.id))
  handle(routes.sectionCalendar, ({ params: { courseId, sectionId }, me, role, res }) => {
    const { plan } = plans.load(courseId)
    const section = plan.sections.find((s) => s.id === sectionId)
    if (!section || (sightOf(role).students !== 'all' && !own(courseId, me.id).has(sectionId)))
      throw new HttpProblem(404, 'There is no such section among yours.')
    const content = calendarOf(`${plan.head.code} ${section.name}`, daysOf(plan, new Set([sectionId])), clock.now())
    return sendFile(res, `due ${section.name}`, 'ics', content)
  })
  handle(routes.personCalendar, ({ params: { courseId, personId }, me, role, res }) => {
    const { plan } = plans.load(courseId)
    const who = person.get(personId, courseId)
    if (!who || (sightOf(role).students !== 'all' && personId !== me.id))
      throw new HttpProblem(404, 'There is no such person in this course.')
    const content = calendarOf(`${plan.head.code}, ${who.name}`, daysOf(plan, own(courseId, personId)), clock.now())
    return sendFile(res, 'due days', 'ics', content)
  })
}
