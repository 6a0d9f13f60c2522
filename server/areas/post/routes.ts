import { randomUUID } from 'node:crypto'
import { format, parseISO } from 'date-fns'
import { sightOf } from '#core/roles'
import { routes, STAND_INS } from '#contract'
import type { AuditList } from '../../kernel/access/audit'
import { now, type Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { sendFile } from '../../kernel/send-file'
import { HttpProblem } from '../../kernel/problem'
import type { StandInFaults } from '../../standins/faults'
import type { Message, Post } from '../../standins/post'
import { allotmentQueries } from '../../kernel/course/allotments'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { postQueries } from './queries'
import { writing } from '../../kernel/db/transactions'

/** Messages to markers through the stand-in for the post, and the switches of the stand-ins. */
export function postRoutes(handle: Handle, db: Db, plans: PlanLoader, post: Post, faults: StandInFaults, audit: AuditList): void {
  const allotments = allotmentQueries(db)
  const { all, own, insert, addressee, person, assessment, isCourse } = postQueries(db)
  const lettersOf = (courseId: string, me: string, role: string) =>
    sightOf(role).letters === 'all' ? all.all(courseId) : own.all(courseId, me)

  handle(routes.letters, ({ params, me, role }) => lettersOf(params.courseId, me.id, role))

  handle(routes.letterFile, async ({ params: { courseId, letterId }, me, role, res }) => {
    const letter = lettersOf(courseId, me.id, role).find((l) => l.id === letterId)
    if (!letter) throw new HttpProblem(404, 'There is no such letter for you.')
    const { id, subject, body, at, by: from } = letter
    const file = await post.read({ id, courseId, from, to: addressee.get(letterId)!, subject, body, at })
    return sendFile(res, 'letter', 'eml', file)
  })

  handle(routes.remind, async ({ params: { courseId, assessmentId }, body, me }) => {
    const title = assessment.get(assessmentId, courseId)?.title
    if (title === undefined) throw new HttpProblem(404, 'There is no such assessment.')
    const { code, title: courseTitle } = plans.load(courseId).plan.head
    const rows = allotments.all(assessmentId)
    const due = allotments.deadlines(assessmentId)
    const known = new Set(allotments.markers(courseId).map((m) => m.id))
    const messages = [...new Set(body.markerIds)].flatMap((id): (Message & { courseId: string; toId: string })[] => {
      if (!known.has(id)) throw new HttpProblem(422, 'There is no such marker.', { field: 'markerIds' })
      const pile = rows.filter((a) => a.markerId === id)
      const left = pile.filter((a) => a.state !== 'handed in').length
      if (left === 0) return []
      const to = person.get(id)!
      const by = due.get(id)
      const words = [
        `${to.name},`,
        `${left} of your ${pile.length} scripts of ${title} (${code} ${courseTitle}) are still to be read${by ? `; they are wanted by ${format(parseISO(by), 'EEEE d MMMM')}` : ''}.`,
        ...(body.words ? [body.words] : []),
        me.name,
      ]
      return [
        {
          id: randomUUID(),
          courseId,
          from: me.name,
          to,
          toId: id,
          subject: `${title}: ${left} left to read`,
          body: words.join('\n\n'),
          at: now(),
        },
      ]
    })
    if (messages.length === 0) throw new HttpProblem(422, 'None of them has anything left to read.', { field: 'markerIds' })
    for (const m of messages) await post.send(m)
    writing(db, () => {
      for (const m of messages) insert.run(m.id, courseId, me.id, m.toId, m.subject, m.body, m.at)
    })
    return { sent: messages.length }
  })

  handle(routes.writeToMarker, async ({ params: { courseId, personId }, body, me }) => {
    const to = allotments.markers(courseId).some((m) => m.id === personId) ? person.get(personId) : undefined
    if (!to) throw new HttpProblem(404, 'There is no such marker in this course.')
    const letter = { id: randomUUID(), courseId, from: me.name, to, subject: body.subject, body: body.words, at: now() }
    await post.send(letter)
    insert.run(letter.id, courseId, me.id, personId, letter.subject, letter.body, letter.at)
    return undefined
  })

  const standIns = (courseId: string) => ({
    now: STAND_INS.map((name) => ({ name, fails: faults.fails(courseId, name) })),
    list: faults.list(courseId),
  })
  handle(routes.standIns, ({ params: { courseId } }) => standIns(courseId))
  handle(routes.installedStandIns, ({ params: { courseId } }) => standIns(courseId))
  handle(routes.setStandIn, ({ params, body, me }) => {
    if (!isCourse.get(params.courseId)) throw new HttpProblem(404, 'There is no such course here.')
    faults.set(params.courseId, params.name, body.fails, me.id)
    audit.note({
      kind: 'stand-in',
      by: me.id,
      courseId: params.courseId,
      words: `${params.name} ${body.fails ? 'made to fail' : 'works again'}`,
    })
    return undefined
  })
}
