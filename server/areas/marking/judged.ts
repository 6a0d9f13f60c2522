import { routes } from '#contract'
import type { Handle } from '../../kernel/http'
import { HttpProblem } from '../../kernel/problem'
import type { JudgedKept } from '../../workers/judged-kept'

/** Readings criterion by criterion, for those who compare markers and criteria. */
export function judgedRoutes(handle: Handle, judged: JudgedKept): void {
  handle(routes.judged, ({ params: { courseId, assessmentId } }) => {
    const found = judged.of(courseId, assessmentId)
    if (!found) throw new HttpProblem(404, 'There is no such assessment.')
    return found
  })
}
