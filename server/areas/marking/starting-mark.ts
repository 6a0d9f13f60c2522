import { whyNoMark } from '#core/marking'
import { appliesIn } from '#core/roll'
import { scriptIdOf } from '#core/trial'
import { routes, type CellWrite } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { PlanLoader } from '../../kernel/course/load-plan'
import type { TableLoader } from '../../kernel/course/load-table'
import { readersOf } from './readers'
import { cellWriter } from './write-cells'

/** One mark for everybody who has none yet, given once and on purpose. */
export function startingMarkRoutes(handle: Handle, db: Db, plans: PlanLoader, tables: TableLoader, writes: CourseWrites): void {
  const write = cellWriter(db, plans)
  const readers = readersOf(db)
  handle(routes.startingMark, ({ params: { courseId, assessmentId }, body, me, role }) => {
    const table = tables.load(courseId)
    const assessment = table.assessments.find((a) => a.id === assessmentId)
    if (!assessment) throw new HttpProblem(404, 'There is no such assessment.')
    const why = whyNoMark(body.mark, { ...assessment, completion: assessment.marking === 'completion' })
    if (why) throw new HttpProblem(422, why, { field: 'mark' })
    const applies = appliesIn(table)
    const readBy = readers.inAssessment(assessmentId)
    const at = table.assessments.indexOf(assessment)
    const { scripts, readings } = table
    const read = new Set(readings.script)
    /** Student → version of their script; null where it has a mark, a status or a reading, which stands. */
    const blank = new Map<number, number | null>()
    scripts.id.forEach((_, i) => {
      if (scripts.assessment[i] !== at) return
      const stands = scripts.entered[i] !== null || scripts.status[i] !== 0 || read.has(i)
      blank.set(scripts.student[i]!, stands ? null : scripts.version[i]!)
    })
    const cells = table.students.flatMap((s, i): CellWrite[] => {
      const version = blank.get(i) ?? (blank.has(i) ? null : 0)
      if (
        version === null ||
        !applies(s.id, assessmentId) ||
        readBy.has(s.id) ||
        table.agreed[scriptIdOf(assessmentId, s.id)] !== undefined
      )
        return []
      return [{ studentId: s.id, assessmentId, version, mark: body.mark, status: 'in', daysLate: 0 }]
    })
    return writes.writeOpen(courseId, () => {
      const { saved, refused } = write(courseId, cells, me.id, role)
      if (refused[0]) throw new HttpProblem(409, refused[0].message)
      return { given: saved, stood: table.students.filter((s) => applies(s.id, assessmentId)).length - saved.length }
    })
  })
}
