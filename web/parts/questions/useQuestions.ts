import { useQuery } from '@tanstack/react-query'
import { routes, type Question } from '#contract'
import { call } from '../../api/client'
import { useNames } from '../../settings/names'

/** What students asked about marks; those that wait first. */
export const useQuestions = (courseId: string, enabled = true) =>
  useQuery({ queryKey: ['questions', courseId], queryFn: () => call(routes.questions, { params: { courseId } }), enabled })

/** How who asked is called on screen. */
export function useCalled(): (question: Question) => string {
  const { shown } = useNames()
  return (q) => (shown === 'numbers' ? q.candidate : q.student)
}
