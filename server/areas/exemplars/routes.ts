import { routes, type Exemplars } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { madeOver } from '../../kernel/version'
import { HttpProblem } from '../../kernel/problem'
import { libraryQueries } from '../../kernel/standards/queries'
import type { CourseWrites } from '../../kernel/course/course-writes'
import { toAssessment } from '../../kernel/course/rows'
import { picksMeant, picksShown, shownOf } from '../../kernel/standards/hidden'
import { asUsed, markOf, standardsOf } from '../../kernel/standards/judge'
import { gateFor, tuningQueries, type ExemplarRow } from '../../kernel/standards/exemplars'
import { exemplarQueries } from './queries'

const judgedOf = ({ picks, judgement, mark }: { picks: string; judgement: string | null; mark: number }) => ({
  picks: JSON.parse(picks) as Record<string, number>,
  judgement,
  mark,
})

/** Exemplars: the lead agrees marks on them, every marker reads them unseen, and sees then how far off they are. */
export function tuningRoutes(handle: Handle, db: Db, writes: CourseWrites): void {
  const library = libraryQueries(db)
  const tuning = tuningQueries(db)
  const gateOf = gateFor(db)
  const { assessments, listed, role } = exemplarQueries(db)

  const assessmentOf = (courseId: string, id: string) => {
    const row = assessments.get(id, courseId)
    if (!row) throw new HttpProblem(404, 'There is no such assessment.')
    return toAssessment(row)
  }
  const exemplarOf = (courseId: string, id: string): ExemplarRow => {
    const row = tuning.get(courseId, id)
    if (!row) throw new HttpProblem(404, 'There is no such exemplar.')
    return row
  }
  const standardOf = standardsOf(library)

  handle(routes.tuning, ({ params: { courseId }, me, role: mine }) => {
    const all = mine === 'marker' ? [] : tuning.markers(courseId)
    return listed.all(courseId).map(({ id, title }) => {
      const exemplars = tuning.all(id).length
      const unread = mine === 'marker' ? gateOf(id, me.id).unread : 0
      return { assessmentId: id, title, exemplars, unread, held: all.filter((m) => gateOf(id, m.id).gate === 'held').length }
    })
  })

  handle(routes.exemplars, ({ params: { courseId, assessmentId }, me, role: mine }): Exemplars => {
    const assessment = assessmentOf(courseId, assessmentId)
    const all = tuning.all(assessmentId)
    const readings = tuning.readings(assessmentId)
    const oversees = mine !== 'marker'
    // The exemplars keep the version that they were agreed by.
    const standard = standardOf(all[0]?.standard_id ?? assessment.standardId)
    const set = tuning.gates(assessmentId)
    const used = standard?.kind === 'rubric' ? { ...standard, body: asUsed(standard.body, assessment.use) } : standard
    const seen = (row: Parameters<typeof judgedOf>[0]) => {
      const judged = judgedOf(row)
      return oversees ? judged : { ...judged, picks: picksShown(used, judged.picks, assessment.use) }
    }
    const { id, title, outOf, marking, tolerance, use } = assessment
    return {
      assessment: { id, title, outOf, marking, tolerance, use },
      standard: used && (oversees ? used : shownOf(used, use)),
      exemplars: all.map((x) => {
        const own = readings.find((r) => r.exemplar_id === x.id && r.marker_id === me.id)
        return {
          id: x.id,
          label: x.label,
          text: x.text,
          shown: x.shown,
          version: x.version,
          readBy: x.readBy,
          own: own ? seen(own) : null,
          agreed: oversees || own ? { ...seen(x), note: x.note } : null,
        }
      }),
      mine: oversees ? 'open' : gateOf(assessmentId, me.id).gate,
      markers: oversees
        ? tuning.markers(courseId).map((m) => ({
            ...m,
            gate: gateOf(assessmentId, m.id).gate,
            set: set.get(m.id) ?? null,
            readings: readings.filter((r) => r.marker_id === m.id).map((r) => ({ exemplarId: r.exemplar_id, ...judgedOf(r) })),
          }))
        : null,
    }
  })

  handle(routes.addExemplar, ({ params: { courseId, assessmentId }, body }) =>
    writes.writeOpen(courseId, () => {
      const assessment = assessmentOf(courseId, assessmentId)
      const standard = standardOf(tuning.all(assessmentId)[0]?.standard_id ?? assessment.standardId)
      return { id: tuning.add(assessmentId, body, markOf(body.agreed, standard, assessment), standard?.id ?? null) }
    }),
  )

  handle(routes.editExemplar, ({ params: { courseId, exemplarId }, body: { version, away, ...body } }) =>
    writes.writeOpen(courseId, () => {
      const row = exemplarOf(courseId, exemplarId)
      madeOver(version, { version: row.version }, 'Somebody changed this exemplar meanwhile.')
      if (row.readBy > 0 && body.text !== row.text)
        throw new HttpProblem(409, `${row.readBy} have read ${row.label}: its text stays. Put it away and add another.`, { field: 'text' })
      const assessment = assessmentOf(courseId, row.assessment_id)
      tuning.edit(row.id, body, markOf(body.agreed, standardOf(row.standard_id), assessment), row.standard_id, away)
      return undefined
    }),
  )

  handle(routes.readExemplar, ({ params: { courseId, exemplarId }, body, me, role: mine }) =>
    writes.writeOpen(courseId, () => {
      const row = exemplarOf(courseId, exemplarId)
      const own = tuning.readings(row.assessment_id).some((r) => r.exemplar_id === row.id && r.marker_id === me.id)
      if (own) throw new HttpProblem(409, `You have read ${row.label}: what you gave before you saw the agreed mark stays.`)
      const assessment = assessmentOf(courseId, row.assessment_id)
      const standard = standardOf(row.standard_id)
      const judged = mine === 'marker' ? { ...body, picks: picksMeant(standard, body.picks, assessment.use) } : body
      tuning.read(row.id, me.id, markOf(judged, standard, assessment))
      return undefined
    }),
  )

  handle(routes.setGate, ({ params: { courseId, assessmentId, markerId }, body, me }) =>
    writes.writeOpen(courseId, () => {
      assessmentOf(courseId, assessmentId)
      if (role.get(courseId, markerId)?.role !== 'marker') throw new HttpProblem(404, 'There is no such marker.')
      tuning.setGate(assessmentId, markerId, body.gate, me.id)
      return undefined
    }),
  )
}
