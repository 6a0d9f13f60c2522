import { useQuery } from '@tanstack/react-query'
import { criterionMaximum } from '#core/scales'
import type { StandardOf } from '#core/marking'
import { routes } from '#contract'
import { call } from '../../api/client'
import { useCourse } from '../../course/course'

export interface CriterionShown {
  id: string
  title: string
  max: number
  /** Its points are taken off. */
  penalty: boolean
}

/** What the course's assessments are marked by; fetched once. */
function useStandards() {
  const { id } = useCourse()
  return useQuery({
    queryKey: ['library', id],
    queryFn: () => call(routes.library, { params: { courseId: id } }),
    staleTime: Infinity,
  }).data
}

/** The criteria of what an assessment is marked by; none where it has none. */
export function useCriteria(standardId: string | null): CriterionShown[] {
  const library = useStandards()
  const rubric = library?.rubrics.find((r) => r.id === standardId)
  if (rubric) return rubric.criteria.map((c) => ({ id: c.id, title: c.title, penalty: c.penalty, max: criterionMaximum(c) }))
  const scheme = library?.schemes.find((s) => s.id === standardId)
  return scheme ? scheme.criteria.map((c) => ({ id: c.id, title: c.title, penalty: false, max: c.max })) : []
}

/** The rubric or mark scheme itself, as marks are reckoned by it; null where there is none. */
export function useStandard(standardId: string | null): StandardOf | null {
  const library = useStandards()
  const rubric = library?.rubrics.find((r) => r.id === standardId)
  if (rubric) return { kind: 'rubric', body: rubric }
  const scheme = library?.schemes.find((s) => s.id === standardId)
  return scheme ? { kind: 'scheme', body: scheme } : null
}
