import { randomUUID } from 'node:crypto'
import { linkedGroups, usualZone, wantedInWords } from '#core/share'
import { routes, SEES_NOTHING, type Sees, type Sharing } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import { decisions } from '../../kernel/course/decisions'
import type { TableLoader } from '../../kernel/course/load-table'
import { toAssessment, type AssessmentRow } from '../../kernel/course/rows'
import { allotmentQueries, readable } from '../../kernel/course/allotments'
import { linesOf, planSharing } from './share'

/** Who reads what: shown before it is done, done in one go, and done again for what nobody has begun. */
export function sharingRoutes(handle: Handle, db: Db, tables: TableLoader, writes: CourseWrites): void {
  const queries = allotmentQueries(db)
  const record = decisions(db)
  const assessments = db.prepare<[string, string], AssessmentRow>('SELECT * FROM assessment WHERE id = ? AND course_id = ?')
  const setBlindness = db.prepare('UPDATE assessment SET blind = ?, sees = ?, version = version + 1 WHERE id = ?')

  const assessmentOf = (courseId: string, id: string): AssessmentRow => {
    const row = assessments.get(id, courseId)
    if (!row || row.away) throw new HttpProblem(404, 'There is no such assessment.')
    return row
  }

  function sharing(courseId: string, row: AssessmentRow): Sharing {
    const { id, title, marking, readingsWanted, version } = toAssessment(row)
    const all = queries.all(id)
    const students = readable(tables.load(courseId), id)
    const latest = queries.latest(id)
    const readers = new Map<string, number>()
    for (const a of all) readers.set(a.studentId, (readers.get(a.studentId) ?? 0) + 1)
    const markers = queries.markers(courseId)
    const nameOf = new Map(markers.map((m) => [m.id, m.name]))
    const due = queries.deadlines(id)
    const taught = queries.taught(courseId)
    const busy = markers.filter((m) => all.some((a) => a.markerId === m.id)).map((m) => m.id)
    const groups = linkedGroups(
      busy,
      all.map((a) => ({ scriptId: a.studentId, markerId: a.markerId })),
    )
    return {
      assessment: {
        id,
        title,
        marking,
        readingsWanted,
        version,
        blind: !!row.blind,
        sees: { ...SEES_NOTHING, ...(JSON.parse(row.sees) as Partial<Sees>) },
      },
      scripts: students.length,
      withdrawn: queries.withdrawn(id),
      usualZone: usualZone(row.out_of, linesOf(tables.load(courseId), { outOf: row.out_of, passMark: row.pass_mark }), queries.errorOf(id)),
      short: students.filter((s) => (readers.get(s.id) ?? 0) < readingsWanted).length,
      loads: markers.map((m) => {
        const own = all.filter((a) => a.markerId === m.id)
        return {
          ...m,
          allotted: own.length,
          draft: own.filter((a) => a.state === 'draft').length,
          handedIn: own.filter((a) => a.state === 'handed in').length,
          due: due.get(m.id) ?? null,
          teaches: taught.filter((s) => s.teacherId === m.id).map((s) => s.name),
        }
      }),
      groups: groups.map((g) => g.map((x) => nameOf.get(x)!)),
      latest: latest?.id ?? null,
      rule: latest?.rule ?? null,
    }
  }

  handle(routes.sharing, ({ params: { courseId, assessmentId } }) => sharing(courseId, assessmentOf(courseId, assessmentId)))

  handle(routes.trySharing, ({ params: { courseId, assessmentId }, body }) => {
    assessmentOf(courseId, assessmentId)
    return planSharing(tables.load(courseId), assessmentId, courseId, body, queries).tried
  })

  /** How many readings a mark waits for decides which marks stand: the record says where sharing out changed it. */
  function noteWanted(courseId: string, of: { id: string; title: string; before: number; opens: number }, by: string): void {
    const summary = wantedInWords({ ...of, now: assessmentOf(courseId, of.id).readings_wanted })
    if (summary === null) return
    record.add({ id: randomUUID(), courseId, kind: 'plan', summary, changes: [], effect: null, reason: 'by sharing out', by })
  }

  handle(routes.shareOut, ({ params: { courseId, assessmentId }, body, me }) => {
    const table = tables.load(courseId)
    writes.writeOpen(courseId, () => {
      const { title, readings_wanted: before } = assessmentOf(courseId, assessmentId)
      const { allotments, tried } = planSharing(table, assessmentId, courseId, body, queries)
      queries.share(assessmentId, allotments, tried.readingsWanted, body, me.id)
      noteWanted(courseId, { id: assessmentId, title, before, opens: tried.opens }, me.id)
    })
    return sharing(courseId, assessmentOf(courseId, assessmentId))
  })

  handle(routes.takeBackSharing, ({ params: { courseId, assessmentId, sharingId }, me }) => {
    writes.writeOpen(courseId, () => {
      const { title, readings_wanted: before } = assessmentOf(courseId, assessmentId)
      if (!queries.takeBack(assessmentId, sharingId, me.id))
        throw new HttpProblem(409, `${title} was shared out anew since, or that is taken back already.`)
      noteWanted(courseId, { id: assessmentId, title, before, opens: 0 }, me.id)
    })
    return sharing(courseId, assessmentOf(courseId, assessmentId))
  })

  handle(routes.setReadBy, ({ params: { courseId, assessmentId, markerId }, body }) =>
    writes.writeOpen(courseId, () => {
      assessmentOf(courseId, assessmentId)
      if (!queries.markers(courseId).some((m) => m.id === markerId)) throw new HttpProblem(404, 'There is no such marker.')
      queries.setDeadline(assessmentId, markerId, body.due)
      return undefined
    }),
  )

  handle(routes.setBlindness, ({ params: { courseId, assessmentId }, body }) =>
    writes.writeOpen(courseId, () => {
      const row = assessmentOf(courseId, assessmentId)
      setBlindness.run(Number(body.blind), JSON.stringify(body.sees), row.id)
      return undefined
    }),
  )
}
