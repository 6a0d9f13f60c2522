import { routes } from '#contract'
import { call } from '../../api/client'

/** Puts a standard to use in an assessment, as the assessment stands when the write has its turn; null takes it off. */
export async function attachTo(courseId: string, assessmentId: string, standardId: string | null) {
  const { assessments } = await call(routes.plan, { params: { courseId } })
  const { version } = assessments.find((a) => a.id === assessmentId)!
  return call(routes.attachStandard, { params: { courseId, assessmentId }, body: { version, standardId } })
}
