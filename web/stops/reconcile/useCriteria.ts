import { useQuery } from '@tanstack/react-query'
import { criteriaOf, type StandardCriterion } from '#core/scales'
import type { StandardOf } from '#core/marking'
import { routes } from '#contract'
import { call } from '../../api/client'
import { useDecidedCourse } from '../../course/course'

/** What the course's assessments are marked by; fetched once. */
function useStandards() {
  const { id } = useDecidedCourse()
  return useQuery({
    queryKey: ['library', id],
    queryFn: () => call(routes.library, { params: { courseId: id } }),
    staleTime: Infinity,
  }).data
}

/** The criteria of what an assessment is marked by; none where it has none. */
export const useCriteria = (standardId: string | null): StandardCriterion[] => criteriaOf(useStandard(standardId))

/** The rubric or mark scheme itself, as marks are reckoned by it; null where there is none. */
export function useStandard(standardId: string | null): StandardOf | null {
  const library = useStandards()
  const rubric = library?.rubrics.find((r) => r.id === standardId)
  if (rubric) return { kind: 'rubric', body: rubric }
  const scheme = library?.schemes.find((s) => s.id === standardId)
  return scheme ? { kind: 'scheme', body: scheme } : null
}
