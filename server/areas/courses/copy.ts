import { routes } from '#contract'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import type { CourseWrites } from '../../kernel/course/course-writes'
import type { PlanLoader } from '../../kernel/course/load-plan'
import { toAssessment, type AssessmentRow } from '../../kernel/course/rows'
import { assessmentCopier } from '../../kernel/course/assessment-copier'
import { freeTitles } from '../../kernel/course/titles'

export function copyRoutes(handle: Handle, db: Db, plans: PlanLoader, writes: CourseWrites): void {
  const { copy, placeLike } = assessmentCopier(db)
  const free = freeTitles(db)
  const role = db.prepare<[string, string], { role: string }>(
    "SELECT role FROM course_role WHERE course_id = ? AND person_id = ? AND role IN ('lead', 'external')",
  )
  const assessment = db.prepare<[string], AssessmentRow>('SELECT * FROM assessment WHERE id = ?')

  handle(routes.copyAssessment, ({ params: { courseId }, body, me }) => {
    if (!role.get(body.fromCourseId, me.id)) throw new HttpProblem(404, 'There is no such course among yours.', { field: 'fromCourseId' })
    const from = plans.load(body.fromCourseId).plan
    const original = from.assessments.find((a) => a.id === body.assessmentId)
    if (!original) throw new HttpProblem(422, 'There is no such assessment in that course.', { field: 'assessmentId' })
    const to = plans.load(courseId).plan
    return writes.writeOpen(courseId, () => {
      if (!to.components.some((c) => c.id === body.componentId))
        throw new HttpProblem(422, 'There is no such component.', { field: 'componentId' })
      const { placements, ...take } = body.take
      const title = free.assessment(courseId, original.title)
      const id = copy(original, { courseId, componentId: body.componentId, title, counts: original.counts && !to.hasMarks }, take)
      const leftOut = placements ? placeLike(original.id, from, id, to) : []
      return { assessment: toAssessment(assessment.get(id)!), leftOut }
    })
  })
}
