import { useQuery } from '@tanstack/react-query'
import { routes } from '#contract'
import { call } from '../../../api/client'

/** What came through the submission box, and what waits to be sorted. */
export const useDeliveries = (courseId: string, enabled = true) =>
  useQuery({ queryKey: ['deliveries', courseId], queryFn: () => call(routes.deliveries, { params: { courseId } }), enabled })
