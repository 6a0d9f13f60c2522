import { useQuery } from '@tanstack/react-query'
import { routes } from '#contract'
import { call } from '../../../api/client'

/** Which assessments have exemplars, and how far they are read. */
export const useTuning = (courseId: string) =>
  useQuery({ queryKey: ['tuning', courseId], queryFn: () => call(routes.tuning, { params: { courseId } }) })

export const useExemplars = (courseId: string, assessmentId: string | null) =>
  useQuery({
    queryKey: ['exemplars', courseId, assessmentId],
    queryFn: () => call(routes.exemplars, { params: { courseId, assessmentId: assessmentId! } }),
    enabled: assessmentId !== null,
  })
