import { partOf } from '#core/grades'
import { courseOfStudent, type Standing, type Workings } from '#core/trial'
import type { OwnCourse } from '#contract'
import type { SeenMark } from '../../kernel/course/seen-marks'
import type { PlanCore } from '../../kernel/course/load-plan'

/**
 * The course as one student may reckon with it: what is set for them, with the marks that are released to them and nothing of the others. What
 * rescales the course as a whole is not in it: that is decided, and told, with the results.
 */
export function ownCourse(
  plan: PlanCore,
  w: Workings,
  standing: Standing,
  studentId: string,
  released: ReadonlySet<string>,
  seen: ReadonlyMap<string, SeenMark>,
): OwnCourse {
  const course = courseOfStudent(w, standing, studentId)
  const applying = new Set(course.placements.map((p) => p.assessmentId))
  const titles = new Map([...plan.components, ...plan.assessments].map((x) => [x.id, x.title]))
  const titleOf = (id: string) => titles.get(id) ?? ''
  const assessments = course.assessments.filter((a) => applying.has(a.id))
  const components = course.components.filter((c) => assessments.some((a) => a.componentId === c.id))
  const parts = new Set([...assessments, ...components].map((p) => p.id))
  return {
    policy: course.policy,
    components: components.map(({ id, weight, combine, dropLowest, bonus }) => ({
      id,
      title: titleOf(id),
      weight,
      combine,
      dropLowest,
      bonus,
    })),
    assessments: assessments.map(({ id, componentId, outOf, worth, counts, bonus, droppable }) => ({
      id,
      componentId,
      title: titleOf(id),
      outOf,
      worth,
      counts,
      bonus,
      droppable,
    })),
    marks: [...seen].flatMap(([assessmentId, mark]) => {
      if (!applying.has(assessmentId)) return []
      if (released.has(assessmentId)) return [{ assessmentId, ...mark }]
      // The student knows that it was late, and lateness limits what it can be worth.
      return mark.status === 'late' ? [{ assessmentId, mark: null, status: mark.status, daysLate: mark.daysLate }] : []
    }),
    boundaries: course.boundaries,
    conditions: (course.conditions ?? []).flatMap((c) =>
      parts.has(partOf(c))
        ? [
            'componentId' in c
              ? { componentId: c.componentId, least: c.least, atMost: c.atMost }
              : { assessmentId: c.assessmentId, least: c.least, atMost: c.atMost },
          ]
        : [],
    ),
  }
}
