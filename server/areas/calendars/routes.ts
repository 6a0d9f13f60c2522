import { randomBytes } from 'node:crypto'
import { appliesTo } from '../../kernel/course/applies-to'
import { placementFor, type Stay } from '#core/roll'
import { routes } from '#contract'
import { calendarOf } from '../../kernel/calendar'
import type { Clock } from '../../kernel/clock'
import { placedOf } from '../../kernel/course/placed-of'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { now, type Db } from '../../kernel/db/open'
import { dueDays } from '../../kernel/due-days'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import { sendFile } from '../../kernel/send-file'

/** A person's due days at a private address that calendars subscribe to: what they teach, and what is set for them. */
export function calendarRoutes(handle: Handle, db: Db, plans: PlanLoader, address: () => string, clock: Clock): void {
  const daysOf = dueDays(db)
  const kept = db.prepare<[string], { token: string; at: string }>('SELECT token, at FROM calendar_address WHERE person_id = ?')
  const renew = db.prepare(
    'INSERT INTO calendar_address (person_id, token, at) VALUES (?, ?, ?) ON CONFLICT DO UPDATE SET token = excluded.token, at = excluded.at',
  )
  const drop = db.prepare('DELETE FROM calendar_address WHERE person_id = ?')
  const holder = db.prepare<[string], { id: string; name: string }>(
    'SELECT p.id, p.name FROM calendar_address c JOIN person p ON p.id = c.person_id WHERE c.token = ? AND p.active = 1',
  )
  const courses = db
    .prepare<[string], string>(
      'SELECT r.course_id FROM course_role r JOIN course c ON c.id = r.course_id WHERE r.person_id = ? AND c.away_at IS NULL ORDER BY c.first_day, c.id',
    )
    .pluck()
  const taught = db.prepare<[string, string], string>('SELECT id FROM section WHERE course_id = ? AND teacher_id = ?').pluck()
  const student = db.prepare<[string, string], { id: string; sectionId: string }>(
    `SELECT s.id, e.section_id AS sectionId FROM student s JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL
     WHERE s.course_id = ? AND s.person_id = ?`,
  )
  const staysOf = db.prepare<[string], Stay>(
    'SELECT section_id AS sectionId, from_day AS "from", to_day AS "to" FROM enrolment WHERE student_id = ? ORDER BY from_day',
  )
  const addressOf = (personId: string) => {
    const own = kept.get(personId)
    return { address: own ? `${address()}/api/calendars/${own.token}/due.ics` : null, at: own?.at ?? null }
  }

  handle(routes.calendarAddress, ({ caller }) => addressOf(caller!.id))
  handle(routes.renewCalendarAddress, ({ caller }) => {
    renew.run(caller!.id, randomBytes(24).toString('base64url'), now())
    return addressOf(caller!.id)
  })
  handle(routes.dropCalendarAddress, ({ caller }) => {
    drop.run(caller!.id)
    return undefined
  })

  handle(routes.calendar, ({ params: { token }, res }) => {
    const who = holder.get(token)
    if (!who) throw new HttpProblem(404, 'There is no calendar at this address (any more): make a new one at Your account.')
    const events = courses.all(who.id).flatMap((courseId) => {
      const { plan } = plans.load(courseId)
      const own = student.get(courseId, who.id)
      const teaches = taught.all(courseId, who.id)
      if (!own) return daysOf(plan, new Set(teaches))
      const stays = staysOf.all(own.id)
      const applies = appliesTo(plan, () => stays)
      // Who moved has the day of the section that they were in then.
      const isOwn = (assessmentId: string, sectionId: string) => {
        return applies(own, assessmentId) && placementFor(placedOf(plan, assessmentId), stays, own.sectionId)?.sectionId === sectionId
      }
      const sections = new Set([own.sectionId, ...stays.map((x) => x.sectionId), ...teaches])
      return daysOf(plan, sections, (assessmentId, sectionId) => teaches.includes(sectionId) || isOwn(assessmentId, sectionId))
    })
    if (events.length === 0) throw new HttpProblem(404, 'You have no course at the moment, and so no due day.')
    return sendFile(res, 'due days', 'ics', calendarOf(`Due days, ${who.name}`, events, clock.now()))
  })
}
