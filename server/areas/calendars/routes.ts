import { randomBytes } from 'node:crypto'
import { appliesTo } from '../../kernel/course/applies-to'
import { placementFor } from '#core/roll'
import { routes } from '#contract'
import { calendarOf } from '../../kernel/calendar'
import type { Clock } from '../../kernel/clock'
import { placedOf } from '../../kernel/course/placed-of'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { now, type Db } from '../../kernel/db/open'
import { dueDays } from '../../kernel/due-days'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import { sha256 } from '../../kernel/sha256'
import { sendFile } from '../../kernel/send-file'
import { calendarQueries } from './queries'

/** A person's due days at a private address that calendars subscribe to: what they teach, and what is set for them. */
export function calendarRoutes(handle: Handle, db: Db, plans: PlanLoader, address: () => string, clock: Clock): void {
  const daysOf = dueDays(db)
  const { kept, renew, drop, holder, courses, taught, student, staysOf } = calendarQueries(db)

  handle(routes.calendarAddress, ({ caller }) => ({ at: kept.get(caller!.id)?.at ?? null }))
  handle(routes.renewCalendarAddress, ({ caller }) => {
    const token = randomBytes(24).toString('base64url')
    const at = now()
    renew.run(caller!.id, sha256(token), at)
    return { address: `${address()}/api/calendars/${token}/due.ics`, at }
  })
  handle(routes.dropCalendarAddress, ({ caller }) => {
    drop.run(caller!.id)
    return undefined
  })

  handle(routes.calendar, ({ params: { token }, res }) => {
    const who = holder.get(sha256(token))
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
