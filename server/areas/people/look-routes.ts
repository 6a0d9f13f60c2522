import { sightOf } from '#core/roles'
import { routes } from '#contract'
import type { AuditList } from '../../kernel/access/audit'
import type { Sessions } from '../../kernel/access/sessions'
import type { Db } from '../../kernel/db/open'
import { tokenOf, type Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'

/** A lead sees a course as one of its markers does: read only, and recorded. */
export function lookRoutes(handle: Handle, db: Db, signIns: Sessions, audit: AuditList): void {
  const markers = db.prepare<[string], { id: string; name: string }>(
    `SELECT p.id, p.name FROM course_role r JOIN person p ON p.id = r.person_id
     WHERE r.course_id = ? AND r.role = 'marker' AND p.active = 1 ORDER BY p.name`,
  )
  const looks = db.prepare<[string], { by: string; as: string; at: string; endedAt: string | null }>(
    `SELECT b.name AS by, a.name AS "as", l.at, l.ended_at AS endedAt FROM look l JOIN person b ON b.id = l.by_id JOIN person a ON a.id = l.as_id
     WHERE l.course_id = ? ORDER BY l.at DESC, l.rowid DESC LIMIT 200`,
  )
  const asThem = db.prepare<[string, string], { by: string; as: string; at: string; endedAt: string | null }>(
    `SELECT b.name AS by, a.name AS "as", l.at, l.ended_at AS endedAt FROM look l JOIN person b ON b.id = l.by_id JOIN person a ON a.id = l.as_id
     WHERE l.course_id = ? AND l.as_id = ? ORDER BY l.at DESC, l.rowid DESC LIMIT 200`,
  )
  handle(routes.markers, ({ params }) => markers.all(params.courseId))
  // While somebody looks as a marker, that they do is not news to them.
  handle(routes.looks, ({ params, me, role }) =>
    sightOf(role).letters === 'all' ? looks.all(params.courseId) : asThem.all(params.courseId, me.id),
  )
  handle(routes.look, ({ params: { courseId }, body: { personId }, me, req }) => {
    if (!markers.all(courseId).some((m) => m.id === personId))
      throw new HttpProblem(422, 'That person does not mark in this course.', { field: 'personId' })
    signIns.look(tokenOf(req)!, courseId, me.id, personId)
    audit.note({ kind: 'look', by: me.id, about: personId, courseId, words: '' })
    return undefined
  })
  handle(routes.lookBack, ({ req }) => {
    signIns.lookBack(tokenOf(req)!)
    return undefined
  })
}
