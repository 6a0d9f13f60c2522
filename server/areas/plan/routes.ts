import { randomUUID } from 'node:crypto'
import { routes, type Assessment, type Component } from '#contract'
import type { Db } from '../../db/open'
import type { Handle } from '../../http'
import { HttpProblem } from '../../problem'
import type { CourseWrites } from '../table/course-writes'
import { toAssessment, toComponent, type AssessmentRow, type ComponentRow, type TableLoader } from '../table/load-table'

const COLUMN: Record<string, string> = {
  title: 'title',
  weight: 'weight',
  outOf: 'out_of',
  worth: 'worth',
  passMark: 'pass_mark',
  tolerance: 'tolerance',
  counts: 'counts',
  bonus: 'bonus',
  droppable: 'droppable',
}
/** What changes grades: once there are marks it is tried first and then decided. */
const MOVES_GRADES = new Set(['weight', 'worth', 'counts', 'bonus', 'droppable'])

export function planRoutes(handle: Handle, db: Db, tables: TableLoader, writes: CourseWrites): void {
  const component = db.prepare<[string, string], ComponentRow>('SELECT * FROM component WHERE id = ? AND course_id = ?')
  const assessment = db.prepare<[string, string], AssessmentRow>('SELECT * FROM assessment WHERE id = ? AND course_id = ?')
  const marked = db.prepare<[string], { n: number }>(
    `SELECT count(*) AS n FROM script s WHERE s.assessment_id = ? AND (s.entered IS NOT NULL OR EXISTS (SELECT 1 FROM reading r WHERE r.script_id = s.id))`,
  )
  const titles = db.prepare<[string], { title: string }>('SELECT title FROM assessment WHERE course_id = ?')

  /** Sets columns whose names come from COLUMN alone. */
  function set(table: 'component' | 'assessment', id: string, patch: Record<string, unknown>): void {
    const fields = Object.keys(patch).filter((k) => COLUMN[k])
    if (fields.length === 0) return
    const values = fields.map((f) => (typeof patch[f] === 'boolean' ? Number(patch[f]) : patch[f]))
    db.prepare(`UPDATE ${table} SET ${fields.map((f) => `${COLUMN[f]} = ?`).join(', ')}, version = version + 1 WHERE id = ?`).run(
      ...values,
      id,
    )
  }

  function guard(courseId: string, patch: Record<string, unknown>): void {
    const moving = Object.keys(patch).find((k) => MOVES_GRADES.has(k))
    if (moving && tables.load(courseId).hasMarks)
      throw new HttpProblem(409, 'There are marks already: a change of weights is tried first and then adopted.', { field: moving })
  }

  handle(routes.editComponent, ({ params, body: { version, ...patch } }) => {
    guard(params.courseId, patch)
    return writes.writeOpen(params.courseId, (): Component => {
      const row = component.get(params.componentId, params.courseId)
      if (!row) throw new HttpProblem(404, 'There is no such component.')
      if (row.version !== version) throw new HttpProblem(409, 'Somebody changed this component meanwhile.', { current: toComponent(row) })
      set('component', row.id, patch)
      return toComponent(component.get(row.id, params.courseId)!)
    })
  })

  handle(routes.editAssessment, ({ params, body: { version, ...patch } }) => {
    guard(params.courseId, patch)
    return writes.writeOpen(params.courseId, (): Assessment => {
      const row = assessment.get(params.assessmentId, params.courseId)
      if (!row) throw new HttpProblem(404, 'There is no such assessment.')
      if (row.version !== version) throw new HttpProblem(409, 'Somebody changed this assessment meanwhile.', { current: toAssessment(row) })
      if (patch.outOf !== undefined && patch.outOf !== row.out_of && marked.get(row.id)!.n > 0)
        throw new HttpProblem(
          409,
          `${row.title} has marks out of ${row.out_of}. Bring them to another maximum at Rescale, where it can be undone.`,
          { field: 'outOf' },
        )
      const outOf = patch.outOf ?? row.out_of
      if (patch.passMark !== undefined && patch.passMark !== null && patch.passMark > outOf)
        throw new HttpProblem(422, `The pass mark ${patch.passMark} is over the maximum of ${outOf}.`, { field: 'passMark' })
      if (patch.title !== undefined && patch.title !== row.title) patch.title = freeTitle(params.courseId, patch.title)
      set('assessment', row.id, patch)
      return toAssessment(assessment.get(row.id, params.courseId)!)
    })
  })

  /** A second "Quiz" becomes "Quiz 2". */
  function freeTitle(courseId: string, title: string): string {
    const taken = new Set(titles.all(courseId).map((t) => t.title.toLowerCase()))
    let free = title
    for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${title} ${n}`
    return free
  }

  const insert = db.prepare(
    `INSERT INTO assessment (id, course_id, component_id, title, marking, out_of, worth, counts, position)
     VALUES (?, ?, ?, ?, 'direct', ?, ?, ?, (SELECT coalesce(max(position), 0) + 1 FROM assessment WHERE course_id = ?))`,
  )
  const place = db.prepare('INSERT INTO placement (assessment_id, section_id) SELECT ?, id FROM section WHERE course_id = ?')
  const scripts = db.prepare(
    `INSERT INTO script (id, student_id, assessment_id) SELECT @id || ':' || s.id, s.id, @id FROM student s
     JOIN enrolment e ON e.student_id = s.id AND e.to_day IS NULL WHERE s.course_id = @course`,
  )
  handle(routes.addAssessment, ({ params: { courseId }, body }) => {
    const counts = tables.load(courseId).hasMarks ? 0 : 1
    return writes.writeOpen(courseId, () => {
      if (!component.get(body.componentId, courseId)) throw new HttpProblem(422, 'There is no such component.', { field: 'componentId' })
      const id = randomUUID()
      insert.run(id, courseId, body.componentId, freeTitle(courseId, body.title), body.outOf, body.worth, counts, courseId)
      place.run(id, courseId)
      scripts.run({ id, course: courseId })
      return toAssessment(assessment.get(id, courseId)!)
    })
  })
}
