import { allocateFurther, ShareError, type Allotment } from '#core/share'
import { routes, type CourseTable, type HandOver, type ShareRule } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { TableLoader } from '../../kernel/course/load-table'
import { allotmentQueries } from '../../kernel/course/allotments'

interface Moved {
  assessment: CourseTable['assessments'][number]
  open: { studentId: string; begun: boolean }[]
  /** Who reads what afterwards: all of the assessment, in each marker's own order. */
  after: Allotment[]
  fresh: Allotment[]
}

/** What somebody leaves unread goes to the other markers. */
export function handOverRoutes(handle: Handle, db: Db, tables: TableLoader, writes: CourseWrites): void {
  const queries = allotmentQueries(db)
  const nameOf = db.prepare<[string], { name: string }>('SELECT name FROM person WHERE id = ?')

  /** @throws ShareError where there are too few others */
  function plan(courseId: string, personId: string): Moved[] {
    const table = tables.load(courseId)
    const taught = queries.taught(courseId)
    const others = queries.markers(courseId).filter((m) => m.id !== personId)
    const sectionOf = new Map(table.students.map((s) => [s.id, s.sectionId]))
    return table.assessments.flatMap((assessment): Moved[] => {
      const now = queries.all(assessment.id)
      const open = now
        .filter((a) => a.markerId === personId && a.state !== 'handed in')
        .map((a) => ({ studentId: a.studentId, begun: a.state === 'draft' }))
      if (open.length === 0) return []
      const leaves = new Set(open.map((o) => o.studentId))
      const stays = now
        .filter((a) => a.markerId !== personId || !leaves.has(a.studentId))
        .map((a) => ({ scriptId: a.studentId, markerId: a.markerId }))
      const fresh = allocateFurther({
        scripts: open.map((o) => ({ id: o.studentId, sectionId: sectionOf.get(o.studentId) ?? '' })),
        markers: others.map((m) => ({ id: m.id, capacity: 1, ownSections: taught.filter((s) => s.teacherId === m.id).map((s) => s.id) })),
        seed: 1,
        avoidOwnSection: true,
        kept: stays,
      }).allotments
      return [{ assessment, open, after: [...stays, ...fresh], fresh }]
    })
  }

  handle(routes.tryHandOver, ({ params: { courseId, personId } }): HandOver => {
    try {
      return {
        assessments: plan(courseId, personId).map(({ assessment, open, fresh }) => ({
          id: assessment.id,
          title: assessment.title,
          scripts: open.length,
          begun: open.filter((o) => o.begun).length,
          to: [...new Set(fresh.map((a) => a.markerId))].map((id) => ({
            name: nameOf.get(id)!.name,
            scripts: fresh.filter((a) => a.markerId === id).length,
          })),
        })),
        why: null,
      }
    } catch (e) {
      if (e instanceof ShareError) return { assessments: [], why: e.message }
      throw e
    }
  })

  handle(routes.handOver, ({ params: { courseId, personId }, me }) =>
    writes.writeOpen(courseId, () => {
      try {
        return plan(courseId, personId).map(({ assessment, after }) => {
          queries.share(assessment.id, after, assessment.readingsWanted, ruleOf(assessment.id, courseId, personId), me.id)
          return { assessmentId: assessment.id, sharingId: queries.latest(assessment.id)!.id }
        })
      } catch (e) {
        if (e instanceof ShareError) throw new HttpProblem(422, e.message)
        throw e
      }
    }),
  )

  /** As it was shared out last, from now on without them. */
  function ruleOf(assessmentId: string, courseId: string, personId: string): ShareRule {
    const last = queries.latest(assessmentId)?.rule
    const { readingsWanted } = tables.load(courseId).assessments.find((a) => a.id === assessmentId)!
    const all = queries.markers(courseId).map((m) => ({ id: m.id, capacity: 1 }))
    return {
      how: 'draw',
      readings: readingsWanted,
      panels: [],
      avoidOwnSection: true,
      seed: 1,
      keep: true,
      sample: { share: 0, least: 0, zone: 0 },
      ...last,
      markers: (last?.markers ?? all).map((m) => (m.id === personId ? { ...m, capacity: 0 } : m)),
      moveBegun: [personId],
    }
  }
}
